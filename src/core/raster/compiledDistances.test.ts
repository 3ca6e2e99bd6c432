import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { awayFromWalls, edgesOf, letGoOfDistances } from '@/core/raster/compiledDistances';

/** A page of 1 where colour may come: by chance, so many per cent of it walls, the same for the same seed. */
function page(width: number, height: number, wallsPercent: number, seed: number): Uint8Array {
  let state = seed >>> 0;
  return Uint8Array.from({ length: width * height }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return (state >>> 16) % 1000 < wallsPercent * 10 ? 0 : 1;
  });
}

/** Rows narrower and wider than sixteen pixels, and than two and three times as many. */
const pages = fc.record({
  width: fc.integer({ min: 1, max: 50 }),
  height: fc.integer({ min: 1, max: 40 }),
  walls: fc.constantFrom(0, 0.2, 1, 5, 40, 100),
  seed: fc.integer(),
});

/** The least of 3 for each pixel straight on and 4 for each aslant over all walls, 250 at most: what a chamfer distance is (Borgefors 1986). */
function distanceAt(width: number, height: number, free: Uint8Array, x: number, y: number): number {
  let least = 250;
  for (let wall = 0; wall < width * height; wall++) {
    if (free[wall] === 1) continue;
    const [far, near] = [Math.abs((wall % width) - x), Math.abs(Math.floor(wall / width) - y)].sort((a, b) => b - a) as [number, number];
    least = Math.min(least, (far - near) * 3 + near * 4);
  }
  return least;
}

describe('what is away from walls', () => {
  it('is all that is further from each wall than asked, or than where it is pressed, less one', () => {
    fc.assert(
      fc.property(pages, fc.integer({ min: 0, max: 60 }), fc.nat(), ({ width, height, walls, seed }, reach, pressed) => {
        const free = page(width, height, walls, seed);
        const at = pressed % free.length;
        const distances = Array.from(free, (_, index) => distanceAt(width, height, free, index % width, Math.floor(index / width)));
        const nearest = Math.min(reach, Math.max(0, (distances[at] as number) - 1));
        const away = awayFromWalls({ width, height }, free, at, reach);
        expect(away.reach).toBe(nearest);
        expect([...away.open]).toEqual(distances.map((distance) => (distance > nearest ? 1 : 0)));
      }),
      { numRuns: 60 },
    );
  });

  it('is told up to 249 thirds of a pixel, and then on as far as that', () => {
    const free = new Uint8Array(100).fill(1);
    free[0] = 0;
    const { open } = awayFromWalls({ width: 100, height: 1 }, free, 99, 249);
    expect([...open]).toEqual(Array.from(free, (_, index) => (index * 3 > 249 ? 1 : 0)));
  });
});

describe('edges of an area', () => {
  it('are its pixels with one beside, above or below that is not of it, and nothing beyond the page', () => {
    fc.assert(
      fc.property(pages, ({ width, height, walls, seed }) => {
        const area = page(width, height, walls, seed);
        const isOutside = (x: number, y: number) => x >= 0 && y >= 0 && x < width && y < height && area[y * width + x] === 0;
        const expected = [...area.keys()].filter((index) => {
          const [x, y] = [index % width, Math.floor(index / width)];
          return area[index] === 1 && (isOutside(x - 1, y) || isOutside(x + 1, y) || isOutside(x, y - 1) || isOutside(x, y + 1));
        });
        expect(edgesOf({ width, height }, area)).toEqual(expected);
        // Whether the memory is new or has been used before makes no difference.
        if (seed % 3 === 0) letGoOfDistances();
      }),
      { numRuns: 150 },
    );
  });
});
