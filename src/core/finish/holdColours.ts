import type { ColourRange } from '@/core/document/checks';

/** Holds red, green and blue of pixels (RGBA, straight alpha) within a range, in place; alpha, and what has none, stays. */
export function holdWithin(rgba: Uint8Array | Uint8ClampedArray, { from, to }: ColourRange): void {
  for (let at = 0; at < rgba.length; at += 4) {
    if (rgba[at + 3] === 0) continue;
    for (let channel = at; channel < at + 3; channel++) {
      const value = rgba[channel] as number;
      if (value < from) rgba[channel] = from;
      else if (value > to) rgba[channel] = to;
    }
  }
}
