import type { Project, ReelItemId } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Outcome } from '@/core/outcome';
import { setGapLength } from '@/core/reel/itemEdits';
import { dropItems } from '@/core/reel/moveItems';
import type { PlacedItem } from '@/core/reel/reel';
import { slipItem, trimItem, trimOf } from '@/core/reel/trimItems';
import { newId } from '@/features/project/editContext';

/** What a drag on the reel does: moves what is chosen, trims one end of an item, or slips what it shows. */
export type DragKind = 'move' | 'start' | 'end' | 'slip';

/** What a drag holds: the items that move with it, in order, and the one that was taken hold of. */
export type Held = {
  readonly kind: DragKind;
  readonly placed: PlacedItem;
  readonly itemIds: readonly ReelItemId[];
  readonly firstStart: number;
};

/** Keeps a distance within what there is to trim or to slip, so that a drag stops there. */
const within = (by: number, least: number, most: number): number => Math.max(least, Math.min(by, most));

/** The edit a drag by so many frames comes to; null when it changes nothing. */
export function dragged(project: Project, { kind, placed, itemIds, firstStart }: Held, byFrames: number): Outcome<Edit> | null {
  if (byFrames === 0) return null;
  if (kind === 'move') return dropItems(project, itemIds, firstStart + byFrames, newId);
  const { item, source } = placed;
  const { fromFrame, frames } = trimOf(placed);
  if (!source) return kind === 'end' ? setGapLength(project, item.id, Math.max(1, frames + byFrames)) : null;
  if (kind === 'slip') {
    const by = within(-byFrames, -fromFrame, source.frames - fromFrame - frames);
    return by === 0 ? null : slipItem(project, item.id, by);
  }
  if (kind === 'start') {
    const by = within(byFrames, -fromFrame, frames - 1);
    return by === 0 ? null : trimItem(project, item.id, { fromFrame: fromFrame + by, frames: frames - by });
  }
  const by = within(byFrames, 1 - frames, source.frames - fromFrame - frames);
  return by === 0 ? null : trimItem(project, item.id, { fromFrame, frames: frames + by });
}
