import { describe, expect, it } from 'vitest';
import { readyPicturesBytes } from '@/core/document/size';
import { shrinkFor } from '@/features/clock/previews';

describe('by how much pictures are made smaller than the film', () => {
  it.each([
    [1280, 702, 1.75],
    [1280, 1280, 1],
    [1280, 1400, 1],
    [1920, 1404, 1.25],
    [1920, 568, 2],
    [3840, 700, 2],
    [1280, 0, 1],
  ])('%i px across, shown on %i px: sides divided by %f', (widthPx, shownPx, shrink) => {
    expect(shrinkFor(widthPx, shownPx)).toBe(shrink);
  });

  it('never so much that fewer pixels are made than are seen, but for what the browser makes smaller itself', () => {
    for (let shownPx = 1; shownPx < 4000; shownPx += 7)
      for (const widthPx of [640, 1280, 1920, 3840])
        expect(widthPx / shrinkFor(widthPx, shownPx)).toBeGreaterThanOrEqual(Math.min(widthPx, shownPx));
  });
});

describe('room for what is ready', () => {
  it.each([
    [0, 384],
    [300, 382.36],
    [10_000, 329.31],
    [60_000, 64],
    [1_000_000, 64],
  ])('of a film of %i drawings: %f MiB', (drawings, mebibytes) => {
    expect(readyPicturesBytes(drawings) / 1024 / 1024).toBeCloseTo(mebibytes, 2);
  });
});
