'use client';
import { Plus } from 'lucide-react';
import { framesOfReel } from '@/core/reel/reel';
import { soundsOfReel } from '@/core/reel/sounds';
import { lengthCounts } from '@/core/time/counts';
import { secondsText } from '@/core/time/seconds';
import { MixPeaks } from '@/features/assemble/MixPeaks';
import { chooseFiles } from '@/features/commands/bringFiles';
import { hint } from '@/features/commands/everyCommand';
import { chosenItems } from '@/features/commands/reelCommands';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { SoundRow } from '@/features/sound/SoundRow';
import { Button } from '@/ui/Button';

/** The sounds heard over what is chosen on the reel, those of its shots and those of the reel. */
export function ReelSoundsPanel() {
  const project = useProject();
  const selection = useViewStore((state) => state.reelSelection);
  const reelFrame = useViewStore((state) => state.reelFrame);
  const chosen = chosenItems(project, selection, reelFrame);
  const [from, to] = [chosen[0]?.startFrame ?? 0, chosen.at(-1)?.endFrame ?? 0];
  const heard = soundsOfReel(project).filter(({ startFrame, endFrame }) => startFrame < to && endFrame > from);
  const total = framesOfReel(project);
  const ends = soundsOfReel(project).reduce((last, { endFrame }) => Math.max(last, endFrame), 0);
  const first = project.firstFrameNumber;
  return (
    <div className="overflow-y-auto p-3">
      <h2 className="font-bold">
        Over frames {from + first}–{Math.max(from, to - 1) + first}
      </h2>
      <p className="numbers text-soft text-xs">
        picture {lengthCounts(Math.max(1, total), project.rate).seconds} s · sound to {secondsText(ends, project.rate)} s
      </p>
      <MixPeaks />
      <ul aria-label="Sounds heard here">
        {heard.map((sound) => (
          <SoundRow key={`${sound.whole.id} ${sound.itemId}`} project={project} heard={sound} onReel />
        ))}
      </ul>
      {heard.length === 0 && <p className="py-2 text-soft">No sound is heard here.</p>}
      <Button onClick={() => chooseFiles('recordings')} title={hint('Bring in a recording', 'bring-sound')} className="mt-1">
        <Plus size={13} /> Bring in a recording
      </Button>
    </div>
  );
}
