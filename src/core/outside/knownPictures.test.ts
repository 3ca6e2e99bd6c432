import fc from 'fast-check';
import { expect, it } from 'vitest';
import { KnownPictures } from '@/core/outside/knownPictures';
import { COARSE_LOOK_BYTES, type Nearby, nearbyAt } from '@/core/outside/look';

/** How far two looks are apart, cell by cell, in all; infinitely where they are of two pictures. */
function distance(a: Uint8Array, b: Uint8Array, { mean, most, some }: Nearby): number {
  const apart = Array.from(a, (value, cell) => Math.abs(value - (b[cell] as number)));
  const sum = apart.reduce((all, one) => all + one, 0);
  const isOne = apart.every((one) => one < most) && apart.filter((one) => one >= some).length <= 3 && sum <= mean * a.length;
  return isOne ? sum : Number.POSITIVE_INFINITY;
}

/** Every look against every one that was met. */
function idsOneByOne(looks: readonly Uint8Array[], nearby: Nearby): readonly number[] {
  const met: Uint8Array[] = [];
  return looks.map((look) => {
    const distances = met.map((other) => distance(look, other, nearby));
    const least = Math.min(...distances);
    return Number.isFinite(least) ? distances.indexOf(least) : met.push(look) - 1;
  });
}

/** Looks that are often near each other: one of a few, with some cells moved by a little or by much. */
const looksOf = (cells: number) =>
  fc
    .array(
      fc.record({ base: fc.nat(2), moved: fc.array(fc.tuple(fc.nat(cells - 1), fc.integer({ min: -70, max: 70 })), { maxLength: 5 }) }),
      {
        minLength: 1,
        maxLength: 24,
      },
    )
    .map((list) =>
      list.map(({ base, moved }) => {
        const look = Uint8Array.from({ length: cells }, (_, cell) => 80 + base * 40 + ((cell * 7) % 11));
        for (const [cell, by] of moved) look[cell] = (look[cell] as number) + by;
        return look;
      }),
    );

it.each([
  ['strict', 4096],
  ['looser', 320],
] as const)('finds the pictures that holding each look against each finds: %s', (_what, widthPx) => {
  const nearby = nearbyAt(widthPx);
  fc.assert(
    fc.property(fc.constantFrom(COARSE_LOOK_BYTES, 100, 37).chain(looksOf), (looks) => {
      const known = new KnownPictures(looks);
      const ids = looks.map((look) => known.idOf(look, nearby));
      // Of two that are equally near either may be meant.
      const expected = idsOneByOne(looks, nearby);
      const leastOf = (id: number, look: Uint8Array) => distance(look, looks[ids.indexOf(id)] as Uint8Array, nearby);
      ids.forEach((id, index) => {
        const look = looks[index] as Uint8Array;
        const isNew = expected.indexOf(expected[index] as number) === index;
        expect(ids.indexOf(id) === index).toBe(isNew);
        expect(leastOf(id, look)).toBe(distance(look, looks[expected.indexOf(expected[index] as number)] as Uint8Array, nearby));
      });
    }),
  );
});

it('tells one picture from none where a single cell is too far', () => {
  const nearby = nearbyAt(4096);
  const look = new Uint8Array(COARSE_LOOK_BYTES).fill(100);
  const moved = (by: number) => look.map((value, cell) => (cell === 70 ? value + by : value));
  const known = new KnownPictures([look, look, look]);
  expect([look, moved(11), moved(12)].map((each) => known.idOf(each, nearby))).toEqual([0, 0, 1]);
});
