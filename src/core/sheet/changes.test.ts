import { describe, expect, it } from 'vitest';
import { changedColumns } from '@/core/sheet/changes';
import { numberAfter, numbersBetween } from '@/core/sheet/numbers';
import { levelOf, shotOf } from '@/core/testing/sheets';

describe('what a change leaves different', () => {
  const columns = (before: string, after: string) => {
    const extra = ['1', '2', '3', '4', '5'];
    return changedColumns(shotOf([levelOf('Sock', before, { extra })]), shotOf([levelOf('Sock', after, { extra })]));
  };

  it.each([
    ['1*2 2*2 3*2', '1*2 2*5 3*2', '… 2*2 …', '… 2*5 …'],
    ['1 2 3', '1*2 2*2 3*2', '1 2 3', '1*2 2*2 3*2'],
    ['1*2 2*2', '1*2 2*2 3*2', '…', '… 3*2'],
    ['1*2', '', '1*2', 'nothing'],
  ])('of %s and %s is %s and %s', (before, after, old, now) =>
    expect(columns(before, after)).toEqual([{ levelName: 'Sock', before: old, after: now }]),
  );

  it('is nothing where columns are the same', () => expect(columns('1*2 2', '1*2 2')).toEqual([]));

  it('is cut where it is long', () => {
    const ones = Array.from({ length: 60 }, (_, index) => String((index % 5) + 1)).join(' ');
    const twos = Array.from({ length: 60 }, (_, index) => `${(index % 5) + 1}*2`).join(' ');
    expect(columns(ones, twos)[0]?.after.split(' ')).toHaveLength(25);
  });
});

describe('numbers of added drawings', () => {
  it.each([
    ['1', ['1'], '1a'],
    ['1a', ['1', '1a'], '1b'],
    ['12', ['12a'], '12b'],
    ['A', ['A'], 'Aa'],
  ])('after %s with %o in use is %s', (number, taken, next) => expect(numberAfter(number, new Set(taken))).toBe(next));

  it('goes on past z', () => {
    const taken = new Set(Array.from({ length: 26 }, (_, index) => `1${String.fromCharCode(97 + index)}`));
    expect(numberAfter('1', taken)).toBe('1aa');
  });

  it.each([
    ['5', '9', 3, ['5', '9'], ['6', '7', '8']],
    ['5', '9', 2, ['5', '9'], ['6', '7']],
    ['5', '7', 2, ['5', '7'], ['5a', '5b']],
    ['5', '9', 3, ['5', '7', '9'], ['5a', '5b', '5c']],
    ['A', 'B', 1, ['A', 'B'], ['Aa']],
  ])('between %s and %s for %i', (first, second, count, taken, numbers) =>
    expect(numbersBetween(first, second, count, new Set(taken))).toEqual(numbers),
  );
});
