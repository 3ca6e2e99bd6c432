import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countColours, PaletteOfPixels } from '@/core/raster/compiledPalettes';
import { NearestColour } from '@/core/raster/palette';
import type { OrderedPixels } from '@/core/raster/pixelOrder';

/** Few colours next to each other, some pixels clear, as drawings are; many by chance, as photographs are. */
const pictures = fc
  .record({
    order: fc.constantFrom('RGBA' as const, 'BGRA' as const),
    pixels: fc.oneof(fc.integer({ min: 0, max: 60 }), fc.constantFrom(16_384, 16_385, 33_000)),
    run: fc.constantFrom(1, 2, 9),
    step: fc.constantFrom(1, 85),
    seed: fc.integer(),
  })
  .map(({ order, pixels, run, step, seed }): OrderedPixels => {
    let state = seed >>> 0;
    const next = () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return state >>> 24;
    };
    const part = () => Math.floor(next() / step) * step;
    const bytes = new Uint8Array(pixels * 4);
    for (let start = 0; start < pixels; start += run) {
      const pixel = [part(), part(), part(), [0, 128, 255, 255][next() >> 6] as number];
      for (let at = start; at < Math.min(pixels, start + run); at++) bytes.set(pixel, at * 4);
    }
    return { pixels: bytes, order };
  });

const coloursOf = ({ pixels, order }: OrderedPixels): (number | null)[] => {
  const [red, blue] = order === 'RGBA' ? [0, 2] : [2, 0];
  return Array.from({ length: pixels.length >> 2 }, (_, pixel) => {
    const at = (byte: number) => pixels[pixel * 4 + byte] as number;
    return at(3) === 0 ? null : (at(red) << 16) | (at(1) << 8) | at(blue);
  });
};

describe('the colours of pixels', () => {
  it('are counted as often as they are seen, clear pixels apart', () => {
    fc.assert(
      fc.property(pictures, (picture) => {
        const expected = new Map<number, number>();
        for (const colour of coloursOf(picture)) if (colour !== null) expected.set(colour, (expected.get(colour) ?? 0) + 1);
        const counted = new Map<number, number>();
        countColours(picture, (colour, pixels) => counted.set(colour, (counted.get(colour) ?? 0) + pixels));
        expect(counted.size).toBe(expected.size);
        expect([...counted].every(([colour, often]) => expected.get(colour) === often)).toBe(true);
        expect([...counted.keys()]).toEqual([...expected.keys()]);
      }),
      { numRuns: 40 },
    );
  });

  const palettes = fc.array(fc.nat(0xffffff), { minLength: 1, maxLength: 256 });

  it('are each the nearest of a palette, the first of those as near, also when palettes take turns', () => {
    fc.assert(
      fc.property(pictures, palettes, palettes, (picture, first, second) => {
        const finders = [first, second, first].map((palette) => [palette, new PaletteOfPixels(palette)] as const);
        for (const [palette, finder] of [...finders, finders[0] as (typeof finders)[0]]) {
          const alone = new NearestColour(palette);
          const expected = coloursOf(picture).map((colour) =>
            colour === null ? palette.length : alone.of(colour >> 16, (colour >> 8) & 255, colour & 255),
          );
          const pixels = picture.pixels.slice();
          expect(Buffer.compare(finder.find({ ...picture, pixels }), Uint8Array.from(expected))).toBe(0);
          const seen = expected.flatMap((index) => {
            const colour = palette[index];
            return colour === undefined ? [0, 0, 0, 0] : [colour >> 16, (colour >> 8) & 255, colour & 255, 255];
          });
          expect(Buffer.compare(pixels, Uint8Array.from(seen))).toBe(0);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('are the first of a palette’s that are as near', () => {
    const [pixel, palette] = [Uint8Array.of(10, 10, 10, 255), [0x0b0a0a, 0x0a0b0a, 0x090a0a, 0x0a0a0b, 0x0a090a]];
    expect([...new PaletteOfPixels(palette).find({ pixels: pixel, order: 'RGBA' })]).toEqual([0]);
    expect([
      ...new PaletteOfPixels([0xffffff, ...palette.slice(3)]).find({ pixels: Uint8Array.of(10, 10, 10, 255), order: 'RGBA' }),
    ]).toEqual([1]);
  });
});
