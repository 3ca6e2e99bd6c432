import { describe, expect, it } from 'vitest';
import { placeOn } from '@/core/raster/placing';

describe('a picture laid on another size', () => {
  it.each([
    ['asIs', 1280, 720, 1920, 1080, { x: 320, y: 180, width: 1280, height: 720 }],
    ['asIs', 1920, 1080, 1280, 720, { x: -320, y: -180, width: 1920, height: 1080 }],
    ['fit', 1280, 720, 1080, 1080, { x: 0, y: 236, width: 1080, height: 608 }],
    ['fill', 1280, 720, 1080, 1080, { x: -420, y: 0, width: 1920, height: 1080 }],
    ['fit', 1280, 720, 1920, 1080, { x: 0, y: 0, width: 1920, height: 1080 }],
  ] as const)('%s: %i × %i on %i × %i', (laying, width, height, toWidth, toHeight, placed) =>
    expect(placeOn({ width, height }, { width: toWidth, height: toHeight }, laying)).toEqual(placed),
  );
});
