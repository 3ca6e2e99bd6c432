import type { Box } from '@/core/raster/bounds';

/** Lays pixels of a box (RGBA, row by row) into a picture that is `width` across, in place; the box lies within it. */
export function layPart(width: number, rgba: Uint8ClampedArray, { left, top, right, bottom }: Box, part: Uint8ClampedArray): void {
  const rowBytes = (right - left) * 4;
  for (let y = top; y < bottom; y++) {
    const from = (y - top) * rowBytes;
    rgba.set(part.subarray(from, from + rowBytes), (y * width + left) * 4);
  }
}
