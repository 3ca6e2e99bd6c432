import { compiledMeasures } from '@/core/analysis/compiledMeasures';
import type { Size } from '@/core/document/model';
import type { Box } from '@/core/raster/bounds';
import { blockSide } from '@/core/raster/signature';

/*
 * What the checks want to know of a picture, worked out in one walk over its pixels: how much ink is on it and
 * where its middle lies, its box, its lightest and darkest channel, and the mean of each square block. Blocks
 * are those of a signature: at most 320 along the longer side.
 */

/** Means of square blocks, premultiplied R G B A of 255, row by row; only the blocks from (left, top), in blocks, that hold anything. */
export type BlockMeans = {
  readonly left: number;
  readonly top: number;
  readonly columns: number;
  readonly rows: number;
  readonly rgba: Uint8Array;
};

/** A point of the picture, in pixels from its upper left corner. */
export type PicturePoint = { readonly x: number; readonly y: number };

/** What a picture measures. `inkPixels` is the sum of alpha, a whole pixel counting 1; `centre` weighs pixels by alpha. */
export type PictureMeasure = {
  readonly inkPixels: number;
  readonly centre: PicturePoint | null;
  readonly box: Box | null;
  /** The least and the greatest red, green or blue of pixels that are at least half opaque; null when there are none. */
  readonly channels: { readonly lowest: number; readonly highest: number } | null;
};

type Sums = { readonly columns: number; readonly side: number; readonly channels: Uint32Array };

/** The numbers `measure` gives, of 8 bytes each. */
type Numbers = readonly [
  ink: number,
  inkX: number,
  inkY: number,
  left: number,
  top: number,
  right: number,
  bottom: number,
  isHalfOpaque: number,
  lowest: number,
  highest: number,
];
const NUMBERS = 10;
const CHANNEL_SUMS_BYTES = 16;

/** Measures a picture (RGBA, straight alpha, row by row). */
export function measurePicture(
  { width, height }: Size,
  rgba: Uint8Array | Uint8ClampedArray,
): { measure: PictureMeasure; blocks: BlockMeans | null } {
  const side = blockSide(width, height);
  const columns = Math.ceil(width / side);
  const blocks = columns * Math.ceil(height / side);
  // The memory: the numbers, the sums of the blocks, the pixels.
  const sums = NUMBERS * Float64Array.BYTES_PER_ELEMENT;
  const pixels = sums + blocks * CHANNEL_SUMS_BYTES;
  const { functions, memory } = compiledMeasures.withRoom(pixels + width * height * 4);
  memory.set(rgba.subarray(0, width * height * 4), pixels);
  functions.measure(pixels, width, height, side, sums, 0);
  const numbers = new Float64Array(memory.buffer, 0, NUMBERS);
  const [ink, inkX, inkY, left, top, right, bottom, isHalfOpaque, lowest, highest] = [...numbers] as unknown as Numbers;
  if (ink === 0) return { measure: { inkPixels: 0, centre: null, box: null, channels: null }, blocks: null };
  const box = { left, top, right, bottom };
  // The middle of pixel x lies at x + 1/2: sums of alpha · (2x + 1) are twice what it weighs.
  const measure = {
    inkPixels: ink / 255,
    centre: { x: inkX / (2 * ink), y: inkY / (2 * ink) },
    box,
    channels: isHalfOpaque ? { lowest, highest } : null,
  };
  const channels = new Uint32Array(memory.buffer, sums, blocks * 4);
  return { measure, blocks: meansWithin({ columns, side, channels }, box, width, height) };
}

function meansWithin({ columns, side, channels }: Sums, box: Box, width: number, height: number): BlockMeans {
  const [left, top] = [Math.floor(box.left / side), Math.floor(box.top / side)];
  const [across, down] = [Math.ceil(box.right / side) - left, Math.ceil(box.bottom / side) - top];
  const rgba = new Uint8Array(across * down * 4);
  for (let row = 0; row < down; row++) {
    for (let column = 0; column < across; column++) {
      const from = ((top + row) * columns + left + column) * 4;
      const to = (row * across + column) * 4;
      const pixels = Math.min(side, width - (left + column) * side) * Math.min(side, height - (top + row) * side);
      for (let channel = 0; channel < 3; channel++) rgba[to + channel] = Math.round((channels[from + channel] as number) / (pixels * 255));
      rgba[to + 3] = Math.round((channels[from + 3] as number) / pixels);
    }
  }
  return { left, top, columns: across, rows: down, rgba };
}
