import type { ColourRange } from '@/core/document/checks';

/** The limits that are offered: between black and white of ITU-R BT.709 in 8 bit, and what EBU R 103 prefers (from memory). */
export const VIDEO_RANGES: readonly { readonly range: ColourRange; readonly name: string }[] = [
  { range: { from: 16, to: 235 }, name: '16–235, video black to white' },
  { range: { from: 5, to: 246 }, name: '5–246, preferred limits' },
];

/** Which pixels (RGBA) have a red, green or blue outside a range: 1 where they do, and how many. */
export function outsideRange(
  rgba: Uint8Array | Uint8ClampedArray,
  { from, to }: ColourRange,
): { readonly mask: Uint8Array; readonly count: number } {
  const mask = new Uint8Array(rgba.length >> 2);
  let count = 0;
  for (let pixel = 0, at = 0; pixel < mask.length; pixel++, at += 4) {
    if (rgba[at + 3] === 0) continue;
    const [red, green, blue] = [rgba[at] as number, rgba[at + 1] as number, rgba[at + 2] as number];
    if (red >= from && red <= to && green >= from && green <= to && blue >= from && blue <= to) continue;
    mask[pixel] = 1;
    count++;
  }
  return { mask, count };
}
