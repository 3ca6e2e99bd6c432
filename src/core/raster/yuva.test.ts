import { describe, expect, it } from 'vitest';
import { i420Bytes } from '@/core/raster/yuv';
import { bleedColours, i420aBytes, pixelsToI420A } from '@/core/raster/yuva';

const pixels = (...each: readonly (readonly [number, number, number, number])[]) => Uint8Array.from(each.flat());
const RED = [200, 20, 10, 255] as const;
const CLEAR = [0, 0, 0, 0] as const;

describe('pictures with transparency as planes', () => {
  it('keep a line’s colour at its edge (one block, worked by hand)', () => {
    const block = pixels(RED, CLEAR, CLEAR, [100, 40, 30, 127]);
    bleedColours(block, 2, 2);
    // (200·255 + 100·127) / 382 = 166.75; (20·255 + 40·127) / 382 = 26.65; (10·255 + 30·127) / 382 = 16.65.
    expect([...block]).toEqual([...RED, 167, 27, 17, 0, 167, 27, 17, 0, 100, 40, 30, 127]);
  });
  it('leave what is wholly seen, and what is not seen at all, as it is', () => {
    for (const pixel of [RED, CLEAR]) {
      const block = pixels(pixel, pixel, pixel, pixel);
      bleedColours(block, 2, 2);
      expect([...block]).toEqual([...pixels(pixel, pixel, pixel, pixel)]);
    }
  });
  it('have their transparency behind Y, U and V, as it was', () => {
    const picture = pixels(RED, CLEAR, [1, 2, 3, 77], RED);
    const out = new Uint8Array(i420aBytes(2, 2));
    pixelsToI420A(2, 2, picture, out);
    expect(out.length).toBe(i420Bytes(2, 2) + 4);
    expect([...out.subarray(6)]).toEqual([255, 0, 77, 255]);
    // The pixels given are not changed.
    expect([...picture.subarray(4, 8)]).toEqual([...CLEAR]);
  });
});
