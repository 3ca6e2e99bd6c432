import type { PlacedItem } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';

/** The frames of its shot that an item shows, as `9–88 of 96`. */
export const trimWords = ({ shot, fromFrame, startFrame, endFrame }: PlacedItem, firstNumber: number): string =>
  `${fromFrame + firstNumber}–${fromFrame + endFrame - startFrame - 1 + firstNumber} of ${shot?.frames ?? 0}`;

/** What of its shot an item shows: `whole`, or which frames by number. */
export function extentWords({ item, shot, fromFrame, startFrame, endFrame }: PlacedItem, firstNumber: number): string {
  if (item.kind === 'gap') return plural(endFrame - startFrame, 'frame');
  if (item.trim === null) return 'whole';
  return `its frames ${fromFrame + firstNumber} to ${fromFrame + endFrame - startFrame - 1 + firstNumber} of ${shot?.frames ?? 0}`;
}

/** An item as it is read out: `020, The sock drops, reel frames 73 to 168, whole`. */
export function itemSentence(placed: PlacedItem, firstNumber: number): string {
  const { shot, startFrame, endFrame } = placed;
  const reel = `reel frames ${startFrame + firstNumber} to ${endFrame - 1 + firstNumber}`;
  if (!shot) return `gap, ${reel}, ${extentWords(placed, firstNumber)}`;
  return [shot.code, shot.name, reel, extentWords(placed, firstNumber)].filter(Boolean).join(', ');
}
