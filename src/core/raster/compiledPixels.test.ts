import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clearHidden, differingBetween, withoutFourth, withPlacesChanged } from '@/core/raster/compiledPixels';

/** Bytes by chance, the same for the same seed. */
function chance(bytes: number, seed: number): Uint8Array {
  let state = seed >>> 0;
  return Uint8Array.from({ length: bytes }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state >>> 24;
  });
}

/** Some few pixels, and so many that they are worked on in several parts, the last of them short. */
const pixelCounts = fc.oneof(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 16_380, max: 16_390 }), fc.constant(40_001));

describe('pixels of four bytes', () => {
  it('lose every fourth byte, wherever they lie', () => {
    fc.assert(
      fc.property(pixelCounts, fc.integer({ min: 0, max: 7 }), fc.integer(), (pixels, offset, seed) => {
        const rgba = chance(offset + pixels * 4, seed).subarray(offset);
        expect(
          Buffer.compare(
            withoutFourth(rgba),
            rgba.filter((_, at) => at % 4 !== 3),
          ),
        ).toBe(0);
      }),
      { numRuns: 40 },
    );
  });

  it('have their first and third byte in each other’s place, in other room or their own', () => {
    fc.assert(
      fc.property(pixelCounts, fc.integer({ min: 0, max: 7 }), fc.integer(), (pixels, offset, seed) => {
        const rgba = chance(offset + pixels * 4, seed).subarray(offset);
        const expected = rgba.map((byte, at) => rgba[at + ([2, 0, -2, 0][at % 4] as number)] ?? byte);
        expect(Buffer.compare(withPlacesChanged(rgba, new Uint8Array(rgba.length)), expected)).toBe(0);
        withPlacesChanged(rgba, rgba);
        expect(Buffer.compare(rgba, expected)).toBe(0);
      }),
      { numRuns: 40 },
    );
  });
});

describe('what is hidden of pixels', () => {
  it('goes, and nothing else does', () => {
    fc.assert(
      fc.property(pixelCounts, fc.nat(7), fc.nat(3), fc.integer(), (pixels, offset, places, seed) => {
        const rgba = chance(offset + pixels * 4, seed).subarray(offset);
        // One pixel in three is not seen at all; some of those have no colour either.
        for (let at = 3; at < rgba.length; at += 12) rgba.fill(0, at - places, at + 1);
        const expected = rgba.map((byte, at) => (rgba[at - (at % 4) + 3] === 0 ? 0 : byte));
        const wasClear = Buffer.compare(rgba, expected) === 0;
        expect(clearHidden(rgba)).toBe(wasClear);
        expect(Buffer.compare(rgba, expected)).toBe(0);
      }),
      { numRuns: 40 },
    );
  });
});

describe('where two pictures differ', () => {
  const sizes = fc.oneof(
    fc.record({ width: fc.integer({ min: 1, max: 23 }), height: fc.integer({ min: 1, max: 9 }) }),
    // So many lines, or lines so long, that they are worked on in several parts.
    fc.constantFrom({ width: 640, height: 40 }, { width: 9001, height: 3 }),
  );

  it('is between the first and the last column and line in which a pixel is another', () => {
    fc.assert(
      fc.property(sizes, fc.array(fc.nat(), { maxLength: 4 }), fc.nat(3), fc.integer(), ({ width, height }, places, part, seed) => {
        const before = chance(width * height * 4, seed);
        const after = before.slice();
        for (const place of places) {
          const at = (place % (width * height)) * 4 + part;
          after[at] = (after[at] as number) ^ 1;
        }
        const differing = Array.from({ length: width * height }, (_, pixel) => pixel).filter((pixel) =>
          [0, 1, 2, 3].some((byte) => before[pixel * 4 + byte] !== after[pixel * 4 + byte]),
        );
        const columns = differing.map((pixel) => pixel % width);
        const lines = differing.map((pixel) => Math.floor(pixel / width));
        expect(differingBetween(before, after, width)).toEqual(
          differing.length === 0
            ? null
            : { left: Math.min(...columns), right: Math.max(...columns), top: Math.min(...lines), bottom: Math.max(...lines) },
        );
      }),
      { numRuns: 200 },
    );
  });
});
