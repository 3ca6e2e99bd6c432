import type { Size } from '@/core/document/model';

/** A rectangle of whole pixels, from the left and the top. */
export type Area = Size & { readonly x: number; readonly y: number };

/** The smallest rectangle outside of which two pictures of one size (a word a pixel, row by row) are the same; null where they are alike. */
export function changedArea(beforeWords: Uint32Array, afterWords: Uint32Array, { width, height }: Size): Area | null {
  // With a sign, since numbers of 31 bits are the quickest in a script.
  const signed = (words: Uint32Array) => new Int32Array(words.buffer, words.byteOffset, words.length);
  const [before, after] = [signed(beforeWords), signed(afterWords)];
  const differs = (row: number): boolean => {
    for (let at = row * width; at < (row + 1) * width; at++) if (before[at] !== after[at]) return true;
    return false;
  };
  let top = 0;
  while (top < height && !differs(top)) top++;
  if (top === height) return null;
  let bottom = height - 1;
  while (!differs(bottom)) bottom--;
  let [left, right] = [width, 0];
  for (let row = top; row <= bottom; row++) {
    const start = row * width;
    let column = 0;
    while (column < left && before[start + column] === after[start + column]) column++;
    left = Math.min(left, column);
    column = width - 1;
    while (column > right && before[start + column] === after[start + column]) column--;
    right = Math.max(right, column);
  }
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
