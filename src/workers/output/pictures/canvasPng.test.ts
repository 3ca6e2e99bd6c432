import fc from 'fast-check';
import { expect, it } from 'vitest';
import { areKept } from '@/workers/output/pictures/canvasPng';

/** Which values a canvas of 8 bits keeps that rounds to the nearest when it multiplies and when it divides (common practice). */
const kept = new Uint8Array(256 * 256);
for (let alpha = 0; alpha < 256; alpha++) {
  for (let value = 0; value < 256; value++) {
    const held = Math.round((value * alpha) / 255);
    const back = alpha === 0 ? 0 : Math.min(255, Math.round((held * 255) / alpha));
    kept[alpha * 256 + value] = back === value ? 1 : 0;
  }
}

const byte = fc.oneof(fc.constantFrom(0, 1, 127, 128, 254, 255), fc.nat(255));
const pixel = fc.tuple(byte, byte, byte, byte);

it('takes a picture only where each of its colours is kept', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(pixel, fc.integer({ min: 1, max: 3 })), { minLength: 1, maxLength: 12 }), (runs) => {
      const pixels = runs.flatMap(([each, times]) => Array.from({ length: times }, () => each));
      const isKept = pixels.every(([r, g, b, alpha]) => [r, g, b].every((value) => kept[alpha * 256 + value] === 1));
      expect(areKept(Uint8Array.from(pixels.flat()), kept)).toBe(isKept);
    }),
  );
});

it.each([
  ['opaque colours of any kind', [200, 3, 77, 255], true],
  ['nothing', [0, 0, 0, 0], true],
  ['a colour where nothing is to be seen', [9, 0, 0, 0], false],
  ['full red, half there', [255, 0, 0, 128], true],
  ['a red that half of it cannot tell from its neighbour', [254, 0, 0, 128], false],
])('%s', (_what, rgba, isKept) => {
  expect(areKept(Uint8Array.from(rgba), kept)).toBe(isKept);
});
