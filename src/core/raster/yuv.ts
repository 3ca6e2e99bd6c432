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

/**
 * Opaque RGBA pixels as I420 planes, BT.709 limited range, into `out`. Alpha is not looked at.
 * Throws for odd sides, which 4:2:0 can't hold.
 */
export function rgbaToI420(width: number, height: number, rgba: Uint8Array | Uint8ClampedArray, out: Uint8Array): void {
  if (width % 2 !== 0 || height % 2 !== 0) throw new Error(`4:2:0 pictures need even sides, not ${width} × ${height}.`);
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, width * height);
  const uStart = width * height;
  const vStart = uStart + (uStart >> 2);
  let chroma = 0;
  let lastWord = -1;
  let lastY = 0;
  const luma = (word: number): number => {
    if (word === lastWord) return lastY;
    lastWord = word;
    lastY = ((word & 255) * YR + ((word >>> 8) & 255) * YG + ((word >>> 16) & 255) * YB + Y_BASE) >> 16;
    return lastY;
  };
  let lastQuad = -1;
  let lastU = 0;
  let lastV = 0;
  for (let y = 0; y < height; y += 2) {
    let upper = y * width;
    let lower = upper + width;
    for (let x = 0; x < width; x += 2, upper += 2, lower += 2, chroma++) {
      const a = words[upper] as number;
      const b = words[upper + 1] as number;
      const c = words[lower] as number;
      const d = words[lower + 1] as number;
      if (a === b && a === c && a === d) {
        const value = luma(a);
        out[upper] = value;
        out[upper + 1] = value;
        out[lower] = value;
        out[lower + 1] = value;
        if (a !== lastQuad) {
          lastQuad = a;
          const red = (a & 255) * 4;
          const green = ((a >>> 8) & 255) * 4;
          const blue = ((a >>> 16) & 255) * 4;
          lastU = (red * UR + green * UG + blue * UB + C_BASE) >> 18;
          lastV = (red * VR + green * VG + blue * VB + C_BASE) >> 18;
        }
        out[uStart + chroma] = lastU;
        out[vStart + chroma] = lastV;
        continue;
      }
      out[upper] = luma(a);
      out[upper + 1] = luma(b);
      out[lower] = luma(c);
      out[lower + 1] = luma(d);
      const red = (a & 255) + (b & 255) + (c & 255) + (d & 255);
      const green = ((a >>> 8) & 255) + ((b >>> 8) & 255) + ((c >>> 8) & 255) + ((d >>> 8) & 255);
      const blue = ((a >>> 16) & 255) + ((b >>> 16) & 255) + ((c >>> 16) & 255) + ((d >>> 16) & 255);
      out[uStart + chroma] = (red * UR + green * UG + blue * UB + C_BASE) >> 18;
      out[vStart + chroma] = (red * VR + green * VG + blue * VB + C_BASE) >> 18;
    }
  }
}
