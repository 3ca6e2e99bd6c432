import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inRgba, isOpaque, makeOpaque } from '@/core/raster/pixelOrder';

describe('the order of pixels', () => {
  it('is red, green, blue, alpha', () => {
    const room = () => new Uint8Array(8);
    expect([...inRgba(Uint8Array.of(1, 2, 3, 4, 250, 251, 252, 253), 'BGRA', room)]).toEqual([3, 2, 1, 4, 252, 251, 250, 253]);
    const already = Uint8Array.of(1, 2, 3, 4);
    expect(inRgba(already, 'RGBA', room)).toBe(already);
  });

  it('is the first one again when it is changed twice', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(255), { minLength: 8, maxLength: 64 }), (bytes) => {
        const pixels = Uint8Array.from(bytes.slice(0, bytes.length - (bytes.length % 4)));
        const once = inRgba(pixels, 'BGRA', () => new Uint8Array(pixels.length));
        expect(inRgba(once, 'BGRA', () => new Uint8Array(pixels.length))).toEqual(pixels);
      }),
    );
  });

  it('is made opaque, and keeps its colours', () => {
    const pixels = Uint8Array.of(1, 2, 3, 0, 4, 5, 6, 17, 7, 8, 9, 255);
    makeOpaque(pixels);
    expect([...pixels]).toEqual([1, 2, 3, 255, 4, 5, 6, 255, 7, 8, 9, 255]);
  });

  it.each([
    [[1, 2, 3, 255, 4, 5, 6, 255], true],
    [[1, 2, 3, 255, 4, 5, 6, 254], false],
    [[1, 2, 3, 0, 4, 5, 6, 255], false],
  ])('tells whether %o is opaque', (pixels, opaque) => expect(isOpaque(Uint8Array.from(pixels))).toBe(opaque));
});
