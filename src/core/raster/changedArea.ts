import type { Size } from '@/core/document/model';
import { differingBetween } from '@/core/raster/compiledPixels';

/** A rectangle of whole pixels, from the left and the top. */
export type Area = Size & { readonly x: number; readonly y: number };

/** The smallest rectangle outside of which two pictures of one size (a word a pixel, row by row) are the same; null where they are alike. */
export function changedArea(beforeWords: Uint32Array, afterWords: Uint32Array, { width, height }: Size): Area | null {
  const bytesOf = (words: Uint32Array) => new Uint8Array(words.buffer, words.byteOffset, words.byteLength);
  const between = height > 0 ? differingBetween(bytesOf(beforeWords), bytesOf(afterWords), width) : null;
  if (!between) return null;
  const { left, right, top, bottom } = between;
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** An area whose left and top are even, which holds the other. */
export const evenArea = ({ x, y, width, height }: Area): Area => ({
  x: x - (x % 2),
  y: y - (y % 2),
  width: width + (x % 2),
  height: height + (y % 2),
});

/** The pixels of an area, row by row; `channels` values a pixel. */
export function cropped<Values extends Uint8Array | Uint32Array>(from: Values, { width }: Size, area: Area, channels = 1): Values {
  const Kind = from.constructor as new (length: number) => Values;
  const out = new Kind(area.width * area.height * channels);
  for (let row = 0; row < area.height; row++) {
    const start = ((area.y + row) * width + area.x) * channels;
    out.set(from.subarray(start, start + area.width * channels), row * area.width * channels);
  }
  return out;
}
