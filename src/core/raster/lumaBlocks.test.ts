import { describe, expect, it } from 'vitest';
import { isRepeat, lumaBlocks } from '@/core/raster/lumaBlocks';

const SIZE = { width: 10, height: 6 };
const filled = (colourAt: (x: number, y: number) => readonly number[]) => {
  const rgba = new Uint8ClampedArray(SIZE.width * SIZE.height * 4);
  for (let y = 0; y < SIZE.height; y++) for (let x = 0; x < SIZE.width; x++) rgba.set(colourAt(x, y), (y * SIZE.width + x) * 4);
  return lumaBlocks(SIZE, rgba);
};

describe('lumaBlocks', () => {
  it('averages blocks of 4 × 4, and smaller ones at the edges', () => {
    const blocks = filled((x) => (x < 4 ? [0, 0, 0, 255] : x < 8 ? [255, 255, 255, 255] : [0, 255, 0, 255]));
    expect([...blocks]).toEqual([0, 255, 182, 0, 255, 182]);
  });

  it('takes what is transparent for white paper', () => expect([...filled(() => [9, 9, 9, 0])]).toEqual([255, 255, 255, 255, 255, 255]));
});

describe('isRepeat', () => {
  const grey = (level: number) => filled(() => [level, level, level, 255]);
  it('lets coding’s small changes pass, and no line that moves', () => {
    expect(isRepeat(grey(100), grey(100))).toBe(true);
    expect(isRepeat(grey(100), grey(101))).toBe(false);
    const line = (at: number) => filled((x) => (x === at ? [0, 0, 0, 255] : [255, 255, 255, 255]));
    expect(isRepeat(line(3), line(4))).toBe(false);
    expect(isRepeat(line(3), line(3))).toBe(true);
  });
});
