import { LITTLE_ENDIAN } from '@/core/raster/pixelOrder';

/** Pixels without the fourth channel. */
export function withoutAlpha(rgba: Uint8Array): Uint8Array {
  const rgb = new Uint8Array((rgba.length / 4) * 3);
  const isAligned = LITTLE_ENDIAN && rgba.byteOffset % 4 === 0;
  const fours = isAligned ? rgba.length >> 4 : 0;
  // Four pixels at once are three words.
  const from = new Int32Array(isAligned ? rgba.buffer : new ArrayBuffer(0), isAligned ? rgba.byteOffset : 0, fours * 4);
  const to = new Int32Array(rgb.buffer, 0, fours * 3);
  for (let four = 0, pixel = 0, word = 0; four < fours; four++, pixel += 4, word += 3) {
    const [first, second, third, fourth] = [
      from[pixel] as number,
      from[pixel + 1] as number,
      from[pixel + 2] as number,
      from[pixel + 3] as number,
    ];
    to[word] = (first & 0xffffff) | (second << 24);
    to[word + 1] = ((second >>> 8) & 0xffff) | (third << 16);
    to[word + 2] = ((third >>> 16) & 0xff) | (fourth << 8);
  }
  for (let at = fours * 16, end = fours * 12; at < rgba.length; at += 4) {
    rgb[end++] = rgba[at] as number;
    rgb[end++] = rgba[at + 1] as number;
    rgb[end++] = rgba[at + 2] as number;
  }
  return rgb;
}
