import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fileNamePart, sequenceDigits, sequenceFileName, sequenceFileNames } from '@/core/output/sequenceNames';

describe('file names', () => {
  it.each([
    ['Washday', 'washday'],
    ['Kettle, at 12 a second', 'kettle-at-12-a-second'],
    ['  Été / là ', 'été-là'],
    // Kana with voicing marks, composed and as two characters each; Devanagari, whose vowels are marks.
    ['ガラスのペン', 'ガラスのペン'],
    ['カ\u3099ラス', 'ガラス'],
    ['हिन्दी', 'हिन्दी'],
    ['\u0301 a', 'a'],
    ['../../etc', 'etc'],
    ['???', 'untitled'],
    ['23.976', '23-976'],
  ])('from %s is %s', (text, part) => expect(fileNamePart(text)).toBe(part));

  it('never hold what a system refuses', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(fileNamePart(text)).toMatch(/^[\p{L}\p{M}\p{N}-]+$/u);
      }),
    );
  });

  it('number frames so that names sort as numbers', () => {
    expect(sequenceFileName('washday_020', 31, 4, 'png')).toBe('washday_020.0031.png');
    expect(sequenceDigits(264)).toBe(4);
    expect(sequenceDigits(123_456)).toBe(6);
    fc.assert(
      fc.property(fc.nat(20_000), fc.integer({ min: 1, max: 50 }), (first, count) => {
        const names = sequenceFileNames('a', first, count, 'png');
        expect(names).toHaveLength(count);
        expect(new Set(names).size).toBe(count);
        expect([...names].sort()).toEqual(names);
      }),
    );
  });
});
