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
const WEIGHTS: Record<PixelOrder, Weights> = {
  RGBA: { y0: YR, y1: YG, y2: YB, u0: UR, u1: UG, u2: UB, v0: VR, v1: VG, v2: VB },
  BGRA: { y0: YB, y1: YG, y2: YR, u0: UB, u1: UG, u2: UR, v0: VB, v1: VG, v2: VR },
};
type Weights = { readonly [weight in 'y0' | 'y1' | 'y2' | 'u0' | 'u1' | 'u2' | 'v0' | 'v1' | 'v2']: number };

/**
 * Opaque pixels, four bytes each, as I420 planes, BT.709 limited range, into `out`. Alpha is not looked at.
 * Throws for odd sides, which 4:2:0 can't hold. Drawings are mostly flat, so four pixels that are like
 * the four before them are not worked out again.
 */
export function pixelsToI420(
  width: number,
  height: number,
  pixels: Uint8Array | Uint8ClampedArray,
  order: PixelOrder,
  out: Uint8Array,
): void {
  if (width % 2 !== 0 || height % 2 !== 0) throw new Error(`4:2:0 pictures need even sides, not ${width} × ${height}.`);
  const words = new Int32Array(pixels.buffer, pixels.byteOffset, width * height);
  const { y0, y1, y2, u0, u1, u2, v0, v1, v2 } = WEIGHTS[order];
  const uStart = width * height;
  const vStart = uStart + (uStart >> 2);
  let chroma = 0;
  let flat = words[0] ?? 0;
  let flatY = weigh(flat, y0, y1, y2, Y_BASE) >> 16;
  let flatU = (weigh(flat, u0, u1, u2, 0) * 4 + C_BASE) >> 18;
  let flatV = (weigh(flat, v0, v1, v2, 0) * 4 + C_BASE) >> 18;
  for (let y = 0; y < height; y += 2) {
    let upper = y * width;
    let lower = upper + width;
    const end = lower;
    for (; upper < end; upper += 2, lower += 2, chroma++) {
      const a = words[upper] as number;
      const b = words[upper + 1] as number;
      const c = words[lower] as number;
      const d = words[lower + 1] as number;
      if (a === b && a === c && a === d) {
        if (a !== flat) {
          flat = a;
          flatY = weigh(a, y0, y1, y2, Y_BASE) >> 16;
          flatU = (weigh(a, u0, u1, u2, 0) * 4 + C_BASE) >> 18;
          flatV = (weigh(a, v0, v1, v2, 0) * 4 + C_BASE) >> 18;
        }
        out[upper] = flatY;
        out[upper + 1] = flatY;
        out[lower] = flatY;
        out[lower + 1] = flatY;
        out[uStart + chroma] = flatU;
        out[vStart + chroma] = flatV;
        continue;
      }
      out[upper] = weigh(a, y0, y1, y2, Y_BASE) >> 16;
      out[upper + 1] = weigh(b, y0, y1, y2, Y_BASE) >> 16;
      out[lower] = weigh(c, y0, y1, y2, Y_BASE) >> 16;
      out[lower + 1] = weigh(d, y0, y1, y2, Y_BASE) >> 16;
      const first = (a & 255) + (b & 255) + (c & 255) + (d & 255);
      const second = ((a >> 8) & 255) + ((b >> 8) & 255) + ((c >> 8) & 255) + ((d >> 8) & 255);
      const third = ((a >> 16) & 255) + ((b >> 16) & 255) + ((c >> 16) & 255) + ((d >> 16) & 255);
      out[uStart + chroma] = (first * u0 + second * u1 + third * u2 + C_BASE) >> 18;
      out[vStart + chroma] = (first * v0 + second * v1 + third * v2 + C_BASE) >> 18;
    }
  }
}

/** A pixel's first three bytes, each by its weight, on top of `base`. */
const weigh = (pixel: number, w0: number, w1: number, w2: number, base: number): number =>
  (pixel & 255) * w0 + ((pixel >> 8) & 255) * w1 + ((pixel >> 16) & 255) * w2 + base;
