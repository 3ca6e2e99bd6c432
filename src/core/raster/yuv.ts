import { compiledPlanes } from '@/core/raster/compiledPlanes';

/*
 * ITU-R BT.709, 8 bit, limited range: with R, G, B from 0 to 255,
 *   Y  = 16 + 219/255 · (0.2126 R + 0.7152 G + 0.0722 B)
 *   Cb = 128 + 224/255 · (B − Y') / 1.8556      where Y' = 0.2126 R + 0.7152 G + 0.0722 B
 *   Cr = 128 + 224/255 · (R − Y') / 1.5748
 * in whole numbers scaled by 2^16. Chroma of 4:2:0 is the mean of each 2 × 2 pixels.
 */
const SCALE = 65536;
const fixed = (value: number) => Math.round(value * SCALE);
const YR = fixed((0.2126 * 219) / 255);
const YG = fixed((0.7152 * 219) / 255);
const YB = fixed((0.0722 * 219) / 255);
const BLUE = 224 / 255 / 1.8556;
const RED = 224 / 255 / 1.5748;
const UR = fixed(-0.2126 * BLUE);
const UG = fixed(-0.7152 * BLUE);
const UB = -UR - UG;
const VG = fixed(-0.7152 * RED);
const VB = fixed(-0.0722 * RED);
const VR = -VG - VB;
const Y_BASE = 16 * SCALE + SCALE / 2;
const C_BASE = (128 * SCALE + SCALE / 2) * 4;

/** Bytes of an I420 picture (Y plane, then U and V at half size); both sides must be even. */
export const i420Bytes = (width: number, height: number): number => (width * height * 3) / 2;

/** In which order a pixel's bytes stand: canvases hand out either, and turning one into the other costs time. */
export type PixelOrder = 'RGBA' | 'BGRA';

/** What each byte of a pixel, first to third, weighs in Y, U and V. */
const WEIGHTS: Record<PixelOrder, { readonly [plane in 'y' | 'u' | 'v']: readonly [number, number, number] }> = {
  RGBA: { y: [YR, YG, YB], u: [UR, UG, UB], v: [VR, VG, VB] },
  BGRA: { y: [YB, YG, YR], u: [UB, UG, UR], v: [VB, VG, VR] },
};

/**
 * Opaque pixels, four bytes each, as I420 planes, BT.709 limited range, into `out`. Alpha is not looked at.
 * Throws for odd sides, which 4:2:0 can't hold.
 */
export function pixelsToI420(
  width: number,
  height: number,
  pixels: Uint8Array | Uint8ClampedArray,
  order: PixelOrder,
  out: Uint8Array,
): void {
  if (width % 2 !== 0 || height % 2 !== 0) throw new Error(`4:2:0 pictures need even sides, not ${width} × ${height}.`);
  const [samples, bytes] = [width * height, i420Bytes(width, height)];
  const { functions, memory } = compiledPlanes.withRoom(bytes + samples * 4);
  const { y, u, v } = WEIGHTS[order];
  memory.set(pixels.subarray(0, samples * 4), bytes);
  functions.planes(bytes, width, height, 0, samples, samples + samples / 4, ...y, Y_BASE, ...u, ...v, C_BASE);
  out.set(memory.subarray(0, bytes));
}
