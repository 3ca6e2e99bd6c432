import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawingWords, someOf } from '@/core/words';

describe('names, some of them', () => {
  it.each([
    [[], 3, ''],
    [['4'], 3, '4'],
    [['4', '5', '6'], 3, '4, 5, 6'],
    [['4', '5', '6', '7'], 3, '4, 5, 6, 7'],
    [['4', '5', '6', '7', '8'], 3, '4, 5, 6 and 2 more'],
  ])('of %j at most %i are “%s”', (names, most, words) => {
    expect(someOf(names, most)).toBe(words);
  });

  it('are all told of, by name or by count', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 30 }), fc.integer({ min: 1, max: 12 }), (names, most) => {
        const words = someOf(names, most);
        const more = Number(/ and (\d+) more$/.exec(words)?.[1] ?? 0);
        const named = words
          .replace(/ and \d+ more$/, '')
          .split(', ')
          .filter(Boolean);
        expect(more).not.toBe(1);
        expect([...named, ...names.slice(named.length)]).toEqual(names);
        expect(named.length + more).toBe(names.length);
      }),
    );
  });
});

it.each([
  ['Line', '4', 'Line 4'],
  ['Level 1', '4', 'Level 1 · 4'],
  ['Level 1', '4b', 'Level 1 · 4b'],
  ['2nd', '4', '2nd 4'],
])('a drawing of level %s with number %s is %s', (level, number, words) => {
  expect(drawingWords(level, number)).toBe(words);
});
