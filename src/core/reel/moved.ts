import type { Project, ReelItemId } from '@/core/document/model';
import { framesOfReel, type PlacedItem, placedItems } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';

/** What an item is called: the code of its shot, the name of its clip. */
export const itemName = ({ source }: PlacedItem): string => source?.name ?? 'the gap';

/** An item that starts on another frame of the reel than before (frames from 0). */
export type MovedItem = { readonly itemId: ReelItemId; readonly name: string; readonly before: number; readonly after: number };

/** What a change moves on the reel: the items that start elsewhere, and the reel's length before and after. */
export type ReelChange = { readonly moved: readonly MovedItem[]; readonly framesBefore: number; readonly framesAfter: number };

/** Compares where items start before and after a change; new and removed ones are not told as moved. */
export function reelChange(before: Project, after: Project): ReelChange {
  const starts = new Map(placedItems(before).map(({ item, startFrame }) => [item.id, startFrame]));
  const moved = placedItems(after).flatMap((placed) => {
    const was = starts.get(placed.item.id);
    if (was === undefined || was === placed.startFrame) return [];
    return [{ itemId: placed.item.id, name: itemName(placed), before: was, after: placed.startFrame }];
  });
  return { moved, framesBefore: framesOfReel(before), framesAfter: framesOfReel(after) };
}

/** Items that move by as many frames, as `3 items 12 frames later`; gaps are not told. Empty when nothing moves. */
export function movedWords({ moved }: Pick<ReelChange, 'moved'>, gaps: ReadonlySet<ReelItemId>): string {
  const byDistance = new Map<number, MovedItem[]>();
  for (const item of moved) {
    if (gaps.has(item.itemId)) continue;
    const distance = item.after - item.before;
    const same = byDistance.get(distance);
    if (same) same.push(item);
    else byDistance.set(distance, [item]);
  }
  return [...byDistance]
    .map(([distance, items]) => {
      const names = items.length <= 3 ? items.map(({ name }) => name).join(', ') : `${items.length} items`;
      const verb = items.length === 1 ? 'starts' : 'start';
      return `${names} ${verb} ${plural(Math.abs(distance), 'frame')} ${distance > 0 ? 'later' : 'earlier'}`;
    })
    .join(', ');
}
