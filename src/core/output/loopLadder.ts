import { LOOP_KIND_FACTS, type LoopKind, type LoopOptions } from '@/core/output/loop';
import type { TakenSize } from '@/core/output/taking';

/*
 * How a loop is made smaller, a step at a time, from what is seen least to what is seen most: without dither, with fewer colours or
 * a lower quality, and then in a smaller size with all of that again. The first that is small enough is the best of them.
 */

/** A way to make a loop: its options, and how wide it is. */
export type LoopRung = { readonly options: LoopOptions; readonly widthPx: number };

const COLOURS = [128, 64, 32, 16];
const QUALITIES = [90, 75, 60, 40];
/** Parts of the width that was asked for, in percent. */
const WIDTHS = [100, 75, 50, 37.5, 25];
export const LEAST_LOOP_WIDTH_PX = 32;

/** The options from those asked for to the ones that keep least. */
function optionsDown(kind: LoopKind, asked: LoopOptions): readonly LoopOptions[] {
  const { hasPalette, hasQuality } = LOOP_KIND_FACTS[kind];
  if (hasPalette) {
    const plain: LoopOptions = { ...asked, dither: 'off' };
    const fewer = COLOURS.filter((colours) => colours < asked.colours).map((colours) => ({ ...plain, colours }));
    return asked.dither === 'off' ? [asked, ...fewer] : [asked, plain, ...fewer];
  }
  if (!hasQuality) return [asked];
  return [asked, ...QUALITIES.filter((quality) => quality < (asked.quality ?? 101)).map((quality) => ({ ...asked, quality }))];
}

/** Every way to make a loop smaller, from as it was asked for on. `widthPx` is how wide that is. */
export function rungsDown(kind: LoopKind, asked: LoopOptions, widthPx: number): readonly LoopRung[] {
  const options = optionsDown(kind, asked);
  return WIDTHS.flatMap((percent) => {
    const width = percent === 100 ? widthPx : Math.round((widthPx * percent) / 200) * 2;
    return width < LEAST_LOOP_WIDTH_PX && percent !== 100 ? [] : options.map((each) => ({ options: each, widthPx: width }));
  });
}

/** The size of a rung: as it was asked for where it is that wide. */
export const sizeOfRung = ({ widthPx }: LoopRung, askedWidthPx: number, asked: TakenSize): TakenSize =>
  widthPx === askedWidthPx ? asked : { kind: 'width', widthPx };

const DITHER_WORDS = { off: 'no dither', ordered: 'ordered dither', diffused: 'diffused dither' } as const;

/** How a loop is made, in words: `64 colours, no dither`. */
export function loopWords(kind: LoopKind, { colours, dither, quality }: LoopOptions): string {
  const { hasPalette, hasQuality } = LOOP_KIND_FACTS[kind];
  if (hasPalette) return `${colours} colours, ${DITHER_WORDS[dither]}`;
  if (!hasQuality) return 'every pixel kept';
  return quality === null ? 'every pixel kept' : `quality ${quality}`;
}
