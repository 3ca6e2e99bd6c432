import { describe, expect, it } from 'vitest';
import { inNaturalOrder, numberedName, numberFaults, numberRanges } from '@/core/bring/fileOrder';

describe('file names', () => {
  it.each([
    ['sock_0012.png', { before: 'sock_', number: 12, after: '' }],
    ['sock12b.png', { before: 'sock', number: 12, after: 'b' }],
    ['take2 sock 7.v.png', { before: 'take2 sock ', number: 7, after: '.v' }],
    ['yard.png', { before: 'yard.png', number: null, after: '' }],
  ])('%s is taken apart', (name, parts) => expect(numberedName(name)).toEqual(parts));

  it('are ordered with 2 before 10', () => {
    const names = ['a10.png', 'a2.png', 'a001.png', 'B1.png', 'a02.png'];
    expect(inNaturalOrder(names, (name) => name)).toEqual(['a001.png', 'a02.png', 'a2.png', 'a10.png', 'B1.png']);
  });

  it.each([
    [['a1.png', 'a2.png', 'a3.png'], [], []],
    [['a1.png', 'a3.png', 'a7.png'], [2, 4, 5, 6], []],
    [['a1.png', 'a01.jpg', 'a2.png', 'a2.webp'], [], [1, 2]],
    [['a1.png', 'b3.png'], [], []],
    [['yard.png', 'sock.png'], [], []],
  ])('%j: missing %j, twice %j', (names, missing, twice) => expect(numberFaults(names)).toEqual({ missing, twice }));

  it('are named in ranges', () => {
    expect(numberRanges([2, 4, 5, 6, 9])).toBe('2, 4–6, 9');
    expect(numberRanges([])).toBe('');
  });
});
