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

const HALF_OPAQUE = 128;

type Sums = { readonly columns: number; readonly rows: number; readonly side: number; readonly channels: Uint32Array };

/** Measures a picture (RGBA, straight alpha, row by row). */
export function measurePicture(
  { width, height }: Size,
  rgba: Uint8Array | Uint8ClampedArray,
): { measure: PictureMeasure; blocks: BlockMeans | null } {
  const side = blockSide(width, height);
  const columns = Math.ceil(width / side);
  const rows = Math.ceil(height / side);
  const sums: Sums = { columns, rows, side, channels: new Uint32Array(columns * rows * 4) };
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, width * height);
  const { channels } = sums;
  let [ink, inkX, inkY, lowest, highest] = [0, 0, 0, 256, -1];
  let [left, right, top, bottom] = [width, 0, -1, 0];
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const blockRow = Math.floor(y / side) * columns;
    let rowInk = 0;
    for (let x = 0; x < width; x++) {
      if (words[row + x] === 0) continue;
      const at = (row + x) * 4;
      const alpha = rgba[at + 3] as number;
      if (alpha === 0) continue;
      const [red, green, blue] = [rgba[at] as number, rgba[at + 1] as number, rgba[at + 2] as number];
      if (rowInk === 0 && x < left) left = x;
      if (x >= right) right = x + 1;
      rowInk += alpha;
      inkX += alpha * (x + 0.5);
      const block = (blockRow + Math.floor(x / side)) * 4;
      channels[block] = (channels[block] as number) + red * alpha;
      channels[block + 1] = (channels[block + 1] as number) + green * alpha;
      channels[block + 2] = (channels[block + 2] as number) + blue * alpha;
      channels[block + 3] = (channels[block + 3] as number) + alpha;
      if (alpha < HALF_OPAQUE) continue;
      const most = Math.max(red, green, blue);
      const least = Math.min(red, green, blue);
      if (most > highest) highest = most;
      if (least < lowest) lowest = least;
    }
    if (rowInk === 0) continue;
    if (top < 0) top = y;
    bottom = y + 1;
    ink += rowInk;
    inkY += rowInk * (y + 0.5);
  }
  if (ink === 0) return { measure: { inkPixels: 0, centre: null, box: null, channels: null }, blocks: null };
  const box = { left, top, right, bottom };
  const measure = {
    inkPixels: ink / 255,
    centre: { x: inkX / ink, y: inkY / ink },
    box,
    channels: highest < 0 ? null : { lowest, highest },
  };
  return { measure, blocks: meansWithin(sums, box, width, height) };
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
