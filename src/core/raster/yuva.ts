import { i420Bytes, pixelsToI420 } from '@/core/raster/yuv';

/** Bytes of an I420A picture: Y, U and V of 4:2:0, then a plane of transparency as large as Y. */
export const i420aBytes = (width: number, height: number): number => i420Bytes(width, height) + width * height;

/*
 * Colour is kept once for each block of 2 × 2 pixels. A pixel that is not seen at all has no colour of its own (canonical
 * pixels say black): in a block with others it is given their mean, each weighted by how much of it is seen, so that the
 * edge of a line keeps the line's colour.
 */

/** Gives pixels that are not seen the colour of those they share a block with; sides are even. */
export function bleedColours(pixels: Uint8Array, width: number, height: number): void {
  for (let y = 0; y < height; y += 2) {
    for (let x = 0; x < width; x += 2) {
      const first = (y * width + x) * 4;
      const block = [first, first + 4, first + width * 4, first + width * 4 + 4];
      let seen = 0;
      let hidden = 0;
      for (const at of block) {
        const alpha = pixels[at + 3] as number;
        seen += alpha;
        if (alpha === 0) hidden++;
      }
      if (hidden === 0 || seen === 0) continue;
      for (let channel = 0; channel < 3; channel++) {
        let sum = 0;
        for (const at of block) sum += (pixels[at + channel] as number) * (pixels[at + 3] as number);
        const mean = Math.round(sum / seen);
        for (const at of block) if (pixels[at + 3] === 0) pixels[at + channel] = mean;
      }
    }
  }
}

/** Canonical straight pixels (RGBA) as I420A planes, BT.709 limited range, into `out`; transparency from 0 to 255. Throws for odd sides. */
export function pixelsToI420A(width: number, height: number, rgba: Uint8Array, out: Uint8Array): void {
  const coloured = rgba.slice();
  bleedColours(coloured, width, height);
  pixelsToI420(width, height, coloured, 'RGBA', out);
  const alphaStart = i420Bytes(width, height);
  for (let pixel = 0; pixel < width * height; pixel++) out[alphaStart + pixel] = rgba[pixel * 4 + 3] as number;
}
