import { withPlacesChanged } from '@/core/raster/compiledPixels';
import type { PixelOrder } from '@/core/raster/yuv';

/** Pixels of four bytes, and in what order those are. */
export type OrderedPixels = { readonly pixels: Uint8Array; readonly order: PixelOrder };

/**
 * Pixels of four bytes in the order R G B A; those that are in it already are given back as they are, others are written into
 * `room`, which must have their length and may be themselves.
 */
export function inRgba(pixels: Uint8Array, order: PixelOrder, room: () => Uint8Array): Uint8Array {
  if (order === 'RGBA') return pixels;
  return withPlacesChanged(pixels, room());
}

/** Whether every pixel (four bytes, alpha last) is opaque. */
export function isOpaque(pixels: Uint8Array): boolean {
  const words = new Uint32Array(pixels.buffer, pixels.byteOffset, pixels.byteLength >> 2);
  const alpha = LITTLE_ENDIAN ? 0xff000000 : 0x000000ff;
  for (let index = 0; index < words.length; index++) if (((words[index] as number) & alpha) >>> 0 !== alpha >>> 0) return false;
  return true;
}

/** Makes every pixel (four bytes, alpha last) opaque, in place. */
export function makeOpaque(pixels: Uint8Array): void {
  const words = new Uint32Array(pixels.buffer, pixels.byteOffset, pixels.byteLength >> 2);
  const alpha = LITTLE_ENDIAN ? 0xff000000 : 0x000000ff;
  for (let index = 0; index < words.length; index++) words[index] = (words[index] as number) | alpha;
}

/** Whether the bytes of a word lie from the lowest up. */
export const LITTLE_ENDIAN = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1;
