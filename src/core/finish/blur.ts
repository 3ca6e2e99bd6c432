import { CompiledCode } from '@/core/compiledCode';
import { BLUR_CODE } from '@/core/finish/blurCode';

/*
 * A Gaussian by three boxes, as the W3C Filter Effects Module Level 1 has it (feGaussianBlur): for a standard deviation s,
 *   d = floor(s · 3 · √(2π) / 4 + 0.5);
 * odd d, three boxes of d in the middle of a pixel; even d, one of d half a pixel to the left, one of d half a pixel to the
 * right, and one of d + 1 in the middle. Along rows first, then along columns, on premultiplied colours.
 *
 * A box's sum goes along by adding what comes in and taking off what goes out, so that the work is the same for any width.
 * Three sums of whole numbers one after another are divided once, by the three widths together. Sums have 32 bits: between rows
 * and columns a value is kept `scale` times as large as it can be, 64 times up to d = 63 (s = 33), so that what comes out is
 * the exact number rounded half up, unless that lies within 1/128 of a half. The sums themselves are in `src/simd/blur.ts`.
 */

/** What lies outside a picture: nothing, or the colours of its edge going on (`edgeMode` none and duplicate of the specification). */
export type BlurEdges = 'none' | 'duplicate';

/** The width of the boxes for a standard deviation, in pixels; below 2 nothing is blurred. */
export const boxWidth = (deviationPx: number): number => Math.floor((deviationPx * 3 * Math.sqrt(2 * Math.PI)) / 4 + 0.5);

/** The three boxes for a width: how many pixels each has, and how far to the left of a pixel all of them together reach. */
export function boxesOf(width: number): { readonly widths: readonly [number, number, number]; readonly reachLeft: number } {
  if (width % 2 === 1) return { widths: [width, width, width], reachLeft: (3 * (width - 1)) / 2 };
  // width/2 to the left and width/2 − 1 to the right, then the other way round, then width/2 to both sides.
  return { widths: [width, width, width + 1], reachLeft: (3 * width) / 2 - 1 };
}

const MOST_SCALE = 64;

/** How many times as large values are kept between rows and columns: a power of 2. */
const scaleOf = ([first, second, third]: readonly [number, number, number]): number =>
  Math.min(MOST_SCALE, 2 ** Math.floor(Math.log2((2 ** 32 - 1) / (255 * first * second * third))));

type Line = readonly [
  source: number,
  target: number,
  row: number,
  lines: number,
  length: number,
  d1: number,
  d2: number,
  d3: number,
  reachLeft: number,
  goesOn: number,
  scale: number,
];
type Code = { readonly rows: (...line: Line) => void; readonly columns: (...line: Line) => void };
/** Bytes of a pixel: as it comes and goes, between rows and columns, and in the room for a line. */
const [PIXEL_BYTES, BETWEEN_BYTES, ROW_BYTES] = [4, 8, 16];
/** So many lines are blurred at once. */
const LINES_AT_ONCE = 4;

const compiledBlur = new CompiledCode<Code>(BLUR_CODE);

/** A picture (RGBA, premultiplied) blurred by a standard deviation in its own pixels; the same one where that blurs nothing. */
export function blurred(
  pixels: Uint8ClampedArray,
  width: number,
  height: number,
  deviationPx: number,
  edges: BlurEdges = 'duplicate',
): Uint8ClampedArray {
  const boxPx = boxWidth(deviationPx);
  if (boxPx < 2) return pixels;
  const {
    widths: [first, second, third],
    widths,
    reachLeft,
  } = boxesOf(boxPx);
  const target = width * height * PIXEL_BYTES;
  const between = 2 * target;
  const row = between + width * height * BETWEEN_BYTES;
  const needed = row + LINES_AT_ONCE * (Math.max(width, height) + first + second + third) * ROW_BYTES;
  const { functions, memory } = compiledBlur.withRoom(needed);
  memory.set(pixels, 0);
  const boxes = [first, second, third, reachLeft, edges === 'duplicate' ? 1 : 0, scaleOf(widths)] as const;
  functions.rows(0, between, row, height, width, ...boxes);
  functions.columns(between, target, row, width, height, ...boxes);
  return new Uint8ClampedArray(memory.buffer as ArrayBuffer, target, pixels.length).slice();
}

/** Gives back the memory that blurring takes, until it is wanted again. */
export const letGoOfBlurring = (): void => compiledBlur.letGo();
