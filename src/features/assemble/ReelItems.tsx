'use client';
import { useMemo } from 'react';
import type { Project } from '@/core/document/model';
import { type PlacedItem, placedById, placedItems } from '@/core/reel/reel';
import { ITEMS_PX, NarrowItems } from '@/features/assemble/NarrowItems';
import { ReelBlock } from '@/features/assemble/ReelBlock';
import type { Held } from '@/features/assemble/reelDrag';
import { frameAt, inSight, type Sight, xOf } from '@/features/assemble/reelView';
import type { ReelHands } from '@/features/assemble/useReelDrag';
import { goToReelFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';

/** Narrower items are drawn as strokes of one picture: nothing could be read on them. */
const NARROWEST_BLOCK_PX = 14;

/** Frames of its shot that an item being trimmed hides, hatched where they would lie. */
function HiddenEnds({ project, held, sight }: { project: Project; held: Held; sight: Sight }) {
  const placed = placedById(project, held.placed.item.id);
  if (!placed?.source || held.kind === 'move') return null;
  const { fromFrame, startFrame, endFrame, source } = placed;
  const hatched =
    'pointer-events-none absolute inset-y-1 z-20 border border-soft/60 bg-[repeating-linear-gradient(115deg,rgba(29,42,35,0.28)_0_2px,rgba(251,250,245,0.75)_2px_7px)]';
  const tail = source.frames - fromFrame - (endFrame - startFrame);
  return (
    <>
      {fromFrame > 0 && <span className={hatched} style={{ left: xOf(startFrame - fromFrame, sight), width: fromFrame * sight.scale }} />}
      {tail > 0 && <span className={hatched} style={{ left: xOf(endFrame, sight), width: tail * sight.scale }} />}
    </>
  );
}

/** The items of the reel in sight, each as long as it is. */
export function ReelItems({ project, sight, held, hands }: { project: Project; sight: Sight; held: Held | null; hands: ReelHands }) {
  const selection = useViewStore((state) => state.reelSelection);
  const chosen = new Set(selection);
  const { items, narrow, wide } = useMemo(() => {
    const seen = inSight(placedItems(project), sight);
    const isNarrow = ({ startFrame, endFrame }: PlacedItem) => (endFrame - startFrame) * sight.scale < NARROWEST_BLOCK_PX;
    return { items: seen, narrow: seen.filter(isNarrow), wide: seen.filter((placed) => !isNarrow(placed)) };
  }, [project, sight]);
  return (
    <div
      className="relative"
      style={{ height: ITEMS_PX }}
      onPointerDown={(event) => {
        const frame = frameAt(event.clientX - event.currentTarget.getBoundingClientRect().left, sight);
        const under = items.find(({ startFrame, endFrame }) => frame >= startFrame && frame < endFrame);
        useViewStore.setState({ reelSelection: under ? [under.item.id] : [] });
        goToReelFrame(frame);
      }}
    >
      {narrow.length > 0 && <NarrowItems items={narrow} sight={sight} />}
      {narrow
        .filter(({ item }) => chosen.has(item.id))
        .map(({ item, startFrame, endFrame }) => (
          <span
            key={item.id}
            className="pointer-events-none absolute inset-y-1 rounded-sm bg-moss"
            style={{ left: xOf(startFrame, sight), width: Math.max(2, (endFrame - startFrame) * sight.scale) }}
          />
        ))}
      {wide.map((placed) => (
        <ReelBlock key={placed.item.id} placed={placed} sight={sight} isChosen={chosen.has(placed.item.id)} hands={hands} />
      ))}
      {held && <HiddenEnds project={project} held={held} sight={sight} />}
    </div>
  );
}
