import type { Size } from '@/core/document/model';
import { type Colour, NearestColour, wordOf } from '@/core/raster/palette';
import { inRgba, type OrderedPixels } from '@/core/raster/pixelOrder';

/*
 * A picture in the colours of a palette. `ordered` adds a pattern of 8 x 8 thresholds (Bayer 1973) before the nearest colour is
 * taken; `diffused` hands what a pixel is off on to those that follow (Floyd and Steinberg 1976: 7, 3, 5 and 1 sixteenths).
 * A pixel whose colour the palette has is left as it is, so that flat colours stay flat.
 */

export type Dither = 'off' | 'ordered' | 'diffused';

/** An index for each pixel; `transparent` for those that are transparent. */
type Indexed = Uint8Array;

/**
 * A picture in the colours of a palette: an index for each pixel, past the last colour's where it is transparent, and the word
 * (R G B A) that comes to, 0 where it is transparent.
 */
export type Quantised = { readonly indices: Indexed; readonly words: Uint32Array };

/** 0 to 63: recursively [0 2; 3 1]. */
const THRESHOLDS = (() => {
  let matrix = [[0]];
  while (matrix.length < 8) {
    const scaled = (add: number) => matrix.map((row) => row.map((value) => value * 4 + add));
    const [a, b, c, d] = [scaled(0), scaled(2), scaled(3), scaled(1)];
    matrix = [...a.map((row, y) => [...row, ...(b[y] as number[])]), ...c.map((row, y) => [...row, ...(d[y] as number[])])];
  }
  return Float32Array.from(matrix.flat(), (value) => (value + 0.5) / 64 - 0.5);
})();

const clamped = (value: number): number => (value < 0 ? 0 : value > 255 ? 255 : value | 0);

/** How far apart the colours of a palette are, on average, in each part: what a pattern may add to a pixel. */
const spreadOf = (palette: readonly Colour[]): number => 255 / Math.max(1, Math.cbrt(palette.length) - 1);

/** A run of fewer pixels is written sooner than it is asked for. */
const SHORT_RUN = 16;

function ordered(rgba: Uint8Array, { width }: Size, palette: readonly Colour[], nearest: NearestColour, transparent: number): Indexed {
  const out = new Uint8Array(rgba.length / 4);
  const spread = spreadOf(palette);
  const kept = new Set(palette);
  for (let pixel = 0, at = 0; pixel < out.length; pixel++, at += 4) {
    if (rgba[at + 3] === 0) {
      out[pixel] = transparent;
      continue;
    }
    const [r, g, b] = [rgba[at] as number, rgba[at + 1] as number, rgba[at + 2] as number];
    const isKept = kept.has((r << 16) | (g << 8) | b);
    const add = isKept ? 0 : (THRESHOLDS[(Math.floor(pixel / width) % 8) * 8 + ((pixel % width) % 8)] as number) * spread;
    out[pixel] = nearest.of(clamped(r + add), clamped(g + add), clamped(b + add));
  }
  return out;
}

function diffused(
  rgba: Uint8Array,
  { width, height }: Size,
  palette: readonly Colour[],
  nearest: NearestColour,
  transparent: number,
): Indexed {
  const out = new Uint8Array(width * height);
  const kept = new Set(palette);
  // What is handed on to this row and the next, three parts a pixel, with a pixel of room at both ends.
  let here = new Float32Array((width + 2) * 3);
  let below = new Float32Array((width + 2) * 3);
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++) {
      const pixel = row * width + column;
      const at = pixel * 4;
      if (rgba[at + 3] === 0) {
        out[pixel] = transparent;
        continue;
      }
      const [r, g, b] = [rgba[at] as number, rgba[at + 1] as number, rgba[at + 2] as number];
      const isKept = kept.has((r << 16) | (g << 8) | b);
      const from = (column + 1) * 3;
      const parts = isKept
        ? [r, g, b]
        : [
            Math.max(0, Math.min(255, r + (here[from] as number))),
            Math.max(0, Math.min(255, g + (here[from + 1] as number))),
            Math.max(0, Math.min(255, b + (here[from + 2] as number))),
          ];
      const index = nearest.of(clamped(parts[0] as number), clamped(parts[1] as number), clamped(parts[2] as number));
      out[pixel] = index;
      if (isKept) continue;
      const colour = palette[index] as Colour;
      for (let channel = 0; channel < 3; channel++) {
        const off = (parts[channel] as number) - ((colour >> (16 - 8 * channel)) & 255);
        here[from + 3 + channel] = (here[from + 3 + channel] as number) + (off * 7) / 16;
        below[from - 3 + channel] = (below[from - 3 + channel] as number) + (off * 3) / 16;
        below[from + channel] = (below[from + channel] as number) + (off * 5) / 16;
        below[from + 3 + channel] = (below[from + 3 + channel] as number) + off / 16;
      }
    }
    [here, below] = [below, here];
    below.fill(0);
  }
  return out;
}

/**
 * A picture in the colours of a palette of at most 256, of 255 where any of its pixels has an alpha of 0. Its pixels are given away: they
 * are written over. What finds the nearest colours may be used for other pictures, too.
 */
export function inPalette(
  picture: OrderedPixels,
  size: Size,
  palette: readonly Colour[],
  dither: Dither,
  nearest = new NearestColour(palette),
): Quantised {
  if (dither === 'off') {
    const { pixels } = picture;
    const indices = nearest.ofPixels.find(picture);
    return { indices, words: new Uint32Array(pixels.buffer, pixels.byteOffset, indices.length) };
  }
  const words = Uint32Array.from([...palette.map(wordOf), 0]);
  const rgba = inRgba(picture.pixels, picture.order, () => picture.pixels);
  const indices =
    dither === 'ordered' ? ordered(rgba, size, palette, nearest, palette.length) : diffused(rgba, size, palette, nearest, palette.length);
  return { indices, words: wordsOf(indices, words) };
}

/**
 * A picture (RGBA, straight alpha) whose pixels are either seen or not: half-transparent ones are laid on the matte (0xRRGGBB)
 * where at least half of them is seen, and are gone elsewhere.
 */
export function onMatte(rgba: Uint8Array, matte: Colour): Uint8Array {
  const out = new Uint8Array(rgba.length);
  const under = [matte >> 16, (matte >> 8) & 255, matte & 255];
  for (let at = 0; at < rgba.length; at += 4) {
    const alpha = rgba[at + 3] as number;
    if (alpha < 128) continue;
    for (let channel = 0; channel < 3; channel++)
      out[at + channel] = Math.round(((rgba[at + channel] as number) * alpha + (under[channel] as number) * (255 - alpha)) / 255);
    out[at + 3] = 255;
  }
  return out;
}

/** The pixels an indexed picture comes to: a word for each. */
function wordsOf(indices: Indexed, words: Uint32Array): Uint32Array {
  const out = new Int32Array(indices.length);
  const signed = new Int32Array(words);
  for (let start = 0; start < out.length; ) {
    const index = indices[start] as number;
    const word = signed[index] as number;
    let end = start + 1;
    while (end < out.length && indices[end] === index) end++;
    if (end - start < SHORT_RUN) for (let pixel = start; pixel < end; pixel++) out[pixel] = word;
    else out.fill(word, start, end);
    start = end;
  }
  return new Uint32Array(out.buffer);
}
