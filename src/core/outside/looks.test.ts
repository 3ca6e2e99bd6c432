import fc from 'fast-check';
import { expect, it } from 'vitest';
import { allLooks, LookRow, lookAt, looksOf } from '@/core/outside/looks';

it('gives back every look that was taken, and those taken before when more come', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 700 }),
      fc.integer({ min: 0, max: 700 }),
      fc.integer({ min: 1, max: 9 }),
      (first, more, bytes) => {
        const lookOf = (index: number) => Uint8Array.from({ length: bytes }, (_, cell) => index * 7 + cell);
        const row = new LookRow();
        for (let index = 0; index < first; index++) row.push(lookOf(index));
        const before = row.looks;
        for (let index = first; index < first + more; index++) row.push(lookOf(index));
        const all = Array.from({ length: first + more }, (_, index) => lookOf(index));
        expect(allLooks(row.looks)).toEqual(all);
        expect(allLooks(before)).toEqual(all.slice(0, first));
        expect(looksOf(all)).toEqual(row.looks);
        expect(row.looks.parts.reduce((sum, part) => sum + part.length, 0)).toBe((first + more) * bytes);
        expect(() => lookAt(before, first)).toThrow(`There is no look ${first}`);
      },
    ),
    { numRuns: 30 },
  );
});

it('takes looks of one kind alone', () => {
  const row = new LookRow();
  row.push(new Uint8Array(4));
  expect(() => row.push(new Uint8Array(5))).toThrow('5 bytes');
});
