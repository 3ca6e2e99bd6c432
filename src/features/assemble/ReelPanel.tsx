'use client';
import { layShot, setReelLength } from '@/core/reel/itemEdits';
import { framesOfReel, placedItems, shotsLeftOut } from '@/core/reel/reel';
import { lengthCounts, lengthSentence, parseLength, plural } from '@/core/time/counts';
import { ItemList } from '@/features/assemble/ItemList';
import { Upstream } from '@/features/assemble/Upstream';
import { chosenItems, takeOnReel } from '@/features/commands/reelCommands';
import { newId } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { CommitCell } from '@/ui/CommitCell';
import { toast } from '@/ui/toast';

const MOST_LEFT_OUT = 6;

/** How long the reel is, in every count; its frames are written over. */
function ReelLength() {
  const project = useProject();
  const total = framesOfReel(project);
  const counts = lengthCounts(Math.max(1, total), project.rate);
  return (
    <div className="border-line border-b p-3">
      <div className="flex items-baseline gap-2">
        <CommitCell
          label="Frames of the reel, as 264, 11s, 00:00:11:00 or 16+08"
          value={String(total)}
          className="w-28 font-bold font-head text-3xl tabular-nums leading-9"
          onCommit={(text) => {
            const frames = parseLength(text, project.rate);
            if (frames.ok) takeOnReel(setReelLength(project, frames.value, newId));
            else toast.message(frames.reason);
          }}
        />
        <span className="text-soft text-xs">{plural(placedItems(project).length, 'item')}</span>
      </div>
      <p className="text-soft text-xs">{lengthSentence(total, project.rate)}</p>
      <p className="numbers text-xs">
        {counts.timecode} · {counts.footage} ft · {counts.rate}
      </p>
    </div>
  );
}

/** Shots of the project that the reel doesn't show, each a press from being on it. */
function LeftOut() {
  const project = useProject();
  const left = shotsLeftOut(project);
  if (left.length === 0) return null;
  const lay = (shotId: string) => {
    const { reelSelection, reelFrame } = useViewStore.getState();
    const behind = (chosenItems(project, reelSelection, reelFrame).at(-1)?.index ?? project.reel.items.length - 1) + 1;
    takeOnReel(layShot(project, shotId, behind, newId));
  };
  return (
    <div className="border-line border-t p-3">
      <p className="pb-1 text-soft text-xs">Not on the reel: {plural(left.length, 'shot')}</p>
      <div className="flex flex-wrap gap-1">
        {left.slice(0, MOST_LEFT_OUT).map((shot) => (
          <Button key={shot.id} tight onClick={() => lay(shot.id)} title={`Lay shot ${shot.code} on the reel, behind what is selected`}>
            {shot.code} {shot.name}
          </Button>
        ))}
        {left.length > MOST_LEFT_OUT && <span className="text-soft text-xs">and {left.length - MOST_LEFT_OUT} more</span>}
      </div>
    </div>
  );
}

/** The reel as a whole: how long, what moved since it was last seen, and every item. */
export function ReelPanel() {
  return (
    <>
      <ReelLength />
      <Upstream />
      <div className="flex min-h-0 flex-1 flex-col p-1.5">
        <ItemList />
      </div>
      <LeftOut />
    </>
  );
}
