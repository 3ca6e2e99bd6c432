import { assert, integer, property, record, tuple } from 'fast-check';
import { describe, expect, it } from 'vitest';
import { grownBox } from '@/features/draw/inkSheet';

const PAPER = { width: 800, height: 450 };

/** A box on the paper or partly beyond it, as a stroke's is. */
const someBox = tuple(
  integer({ min: -200, max: 900 }),
  integer({ min: -200, max: 600 }),
  integer({ min: 1, max: 300 }),
  integer({ min: 1, max: 300 }),
).map(([left, top, width, height]) => ({ left, top, right: left + width, bottom: top + height }));

describe('the sheet under a stroke', () => {
  it.each([
    [
      'reaches a little past where a stroke begins',
      null,
      { left: 400, top: 200, right: 404, bottom: 204 },
      { left: 304, top: 104, right: 500, bottom: 300 },
    ],
    [
      'stays as it is while the ink lies on it',
      { left: 304, top: 104, right: 500, bottom: 300 },
      { left: 400, top: 200, right: 499.5, bottom: 204 },
      { left: 304, top: 104, right: 500, bottom: 300 },
    ],
    [
      'doubles to the side where it is outgrown',
      { left: 304, top: 104, right: 500, bottom: 300 },
      { left: 400, top: 200, right: 500.5, bottom: 204 },
      { left: 304, top: 104, right: 696, bottom: 300 },
    ],
    [
      'ends where the paper does',
      { left: 304, top: 104, right: 700, bottom: 300 },
      { left: 100, top: 90, right: 1000, bottom: 500 },
      { left: 0, top: 0, right: 800, bottom: 450 },
    ],
    ['has whole pixels', null, { left: 99.4, top: 99.6, right: 100.2, bottom: 100.4 }, { left: 3, top: 3, right: 197, bottom: 197 }],
  ])('%s', (_, before, wanted, is) => {
    expect(grownBox(before, wanted, PAPER)).toEqual(is);
  });

  it('covers all ink that can be on the paper, whatever it covered before, and grows seldom', () => {
    assert(
      property(record({ first: someBox, second: someBox }), ({ first, second }) => {
        const before = grownBox(null, first, PAPER);
        const after = grownBox(before, second, PAPER);
        for (const ink of [first, second]) {
          expect(after.left).toBeLessThanOrEqual(Math.max(0, ink.left));
          expect(after.top).toBeLessThanOrEqual(Math.max(0, ink.top));
          expect(after.right).toBeGreaterThanOrEqual(Math.min(PAPER.width, ink.right));
          expect(after.bottom).toBeGreaterThanOrEqual(Math.min(PAPER.height, ink.bottom));
        }
        expect(grownBox(after, second, PAPER)).toEqual(after);
      }),
    );
  });
});
