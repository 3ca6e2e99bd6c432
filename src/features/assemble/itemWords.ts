import type { ClipReading } from '@/core/document/clip';
import type { PlacedItem } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';

/** The frames of its shot or clip that an item shows, as `9–88 of 96`. */
export const trimWords = ({ source, fromFrame, startFrame, endFrame }: PlacedItem, firstNumber: number): string =>
  `${fromFrame + firstNumber}–${fromFrame + endFrame - startFrame - 1 + firstNumber} of ${source?.frames ?? 0}`;

/** What of its shot or clip an item shows: `whole`, or which frames by number. */
export function extentWords({ item, source, fromFrame, startFrame, endFrame }: PlacedItem, firstNumber: number): string {
  if (item.kind === 'gap') return plural(endFrame - startFrame, 'frame');
  if (item.trim === null) return 'whole';
  return `its frames ${fromFrame + firstNumber} to ${fromFrame + endFrame - startFrame - 1 + firstNumber} of ${source?.frames ?? 0}`;
}

/** How a clip is read, in two or three words. */
export const WAY_WORDS: Readonly<Record<ClipReading, string>> = { readAs: 'frame for frame', converted: 'keeping its time' };

/** An item as it is read out: `020, The sock drops, reel frames 73 to 168, whole`. */
export function itemSentence(placed: PlacedItem, firstNumber: number): string {
  const { item, source, shot, startFrame, endFrame } = placed;
  const reel = `reel frames ${startFrame + firstNumber} to ${endFrame - 1 + firstNumber}`;
  if (!source) return `gap, ${reel}, ${extentWords(placed, firstNumber)}`;
  const what = item.kind === 'clip' ? `a clip ${WAY_WORDS[item.way]}` : shot?.name;
  return [source.name, what, reel, extentWords(placed, firstNumber)].filter(Boolean).join(', ');
}
