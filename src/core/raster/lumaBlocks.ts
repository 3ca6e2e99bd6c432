import type { Size } from '@/core/document/model';

/** Side of a block, in pixels: a line one pixel wide that moves still changes the blocks it leaves by a quarter of its lightness. */
const SIDE = 4;

/** The mean lightness (Rec. 709 luma of ITU-R BT.709-6, item 3.2, on white) of each block of 4 × 4 pixels, row by row. */
export function lumaBlocks({ width, height }: Size, rgba: Uint8ClampedArray | Uint8Array): Uint8Array {
  const columns = Math.ceil(width / SIDE);
  const rows = Math.ceil(height / SIDE);
  const sums = new Float32Array(columns * rows);
  for (let y = 0, at = 0; y < height; y++) {
    const row = Math.floor(y / SIDE) * columns;
    for (let x = 0; x < width; x++, at += 4) {
      const luma = 0.2126 * (rgba[at] as number) + 0.7152 * (rgba[at + 1] as number) + 0.0722 * (rgba[at + 2] as number);
      const block = row + Math.floor(x / SIDE);
      sums[block] = (sums[block] as number) + 255 + ((luma - 255) * (rgba[at + 3] as number)) / 255;
    }
  }
  return Uint8Array.from(sums, (sum, block) => {
    const across = Math.min(SIDE, width - (block % columns) * SIDE);
    const down = Math.min(SIDE, height - Math.floor(block / columns) * SIDE);
    return Math.round(sum / (across * down));
  });
}

/*
 * Coding a film changes a held picture a little from frame to frame: measured with H.264 and VP9 from good to
 * poor quality, a few blocks in ten thousand along its lines by up to 31 levels of 255, and 0.03 levels on
 * average. A movement changes many blocks, or some by more.
 */
const LARGEST_LEVELS = 40;
const DIFFERENT_LEVELS = 10;
const DIFFERENT_PART = 0.001;
const MEAN_LEVELS = 0.6;

/** Whether two pictures of a film are one picture but for what coding did to it; both as `lumaBlocks`. */
export function isRepeat(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  let sum = 0;
  let different = 0;
  for (let index = 0; index < a.length; index++) {
    const apart = Math.abs((a[index] as number) - (b[index] as number));
    if (apart >= LARGEST_LEVELS) return false;
    if (apart >= DIFFERENT_LEVELS) different++;
    sum += apart;
  }
  return sum / Math.max(1, a.length) <= MEAN_LEVELS && different <= a.length * DIFFERENT_PART;
}
