import type { PlacedItem } from '@/core/reel/reel';
import { type Sight, xOf } from '@/features/assemble/reelView';

/** An item too narrow for a block, in CSS pixels; every second one has another colour. */
export type Stroke = { readonly x: number; readonly width: number; readonly parity: number };

const NARROWEST_PX = 0.5;

/** The stroke of an item; a pixel is left free behind it where there is one to spare. */
export function strokeOf({ index, startFrame, endFrame }: PlacedItem, sight: Sight): Stroke {
  const width = (endFrame - startFrame) * sight.scale;
  return { x: xOf(startFrame, sight), width: Math.max(NARROWEST_PX, width > 3 ? width - 1 : width), parity: index % 2 };
}

const same = (a: Stroke | undefined, b: Stroke | undefined): boolean => a?.x === b?.x && a?.width === b?.width && a?.parity === b?.parity;

/** From where the first stroke that differs begins to where the last ends, `[left, right)` in CSS pixels; null when none does. */
export function changedSpan(before: readonly Stroke[], after: readonly Stroke[]): readonly [number, number] | null {
  const shorter = Math.min(before.length, after.length);
  let head = 0;
  while (head < shorter && same(before[head], after[head])) head++;
  if (head === before.length && head === after.length) return null;
  let tail = 0;
  while (tail < shorter - head && same(before.at(-1 - tail), after.at(-1 - tail))) tail++;
  const changed = [...before.slice(head, before.length - tail), ...after.slice(head, after.length - tail)];
  const left = Math.min(...changed.map(({ x }) => x));
  const right = Math.max(...changed.map(({ x, width }) => x + width));
  return [left, right];
}
