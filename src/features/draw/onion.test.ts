import { describe, expect, it } from 'vitest';
import { levelOf } from '@/core/testing/sheets';
import { onionSheets, whyNoOnion } from '@/features/draw/onion';
import type { OnionSkin } from '@/features/project/viewStore';

const onion: OnionSkin = { on: true, before: 2, after: 1, beforePercent: 50, afterPercent: 40 };
const level = levelOf('Sock', '1*2 2*2 3*2 .*2 4*2 5*2', { pictures: 'abcde' });
const letters = (frame: number, part: Partial<OnionSkin> = {}) =>
  onionSheets(level, frame, { ...onion, ...part }).map((sheet) => `${sheet.side}:${sheet.picture[0]}`);

describe('onionSheets', () => {
  it.each([
    [4, ['after:d', 'before:a', 'before:b']],
    [5, ['after:d', 'before:a', 'before:b']],
    [6, ['after:d', 'before:b', 'before:c']],
    [0, ['after:b']],
    [11, ['before:c', 'before:d']],
  ])('on frame %i are %j: by drawing, blanks passed over, the furthest first', (frame, sheets) => expect(letters(frame)).toEqual(sheets));

  it('fade with distance', () => {
    const [first, second] = onionSheets(level, 4, { ...onion, after: 0 });
    expect(first?.alpha).toBeCloseTo(0.3);
    expect(second?.alpha).toBeCloseTo(0.5);
  });

  it('leave out drawings not drawn yet, still levels, and the drawing that shows', () => {
    expect(onionSheets(levelOf('Sock', '1*2 2*2', { pictures: '-b' }), 2, onion)).toEqual([]);
    expect(onionSheets(levelOf('Yard', '1', { kind: 'still', pictures: 'a' }), 0, onion)).toEqual([]);
    expect(
      onionSheets(levelOf('Sock', '1*2 2 1*2', { pictures: 'ab' }), 3, { ...onion, before: 2, after: 0 }).map((sheet) => sheet.picture[0]),
    ).toEqual(['b']);
  });
});

describe('whyNoOnion', () => {
  it.each([
    [{ on: false }, 4, 'switched off'],
    [{ before: 0, after: 0 }, 4, 'it reaches over no drawing'],
    [{ beforePercent: 0, afterPercent: 0 }, 4, 'its strength is 0'],
    [{ before: 2, after: 0 }, 0, 'no drawn neighbour within its reach'],
    [{}, 4, null],
  ])('%o on frame %i: %s', (part, frame, why) => expect(whyNoOnion(level, frame, { ...onion, ...part })).toBe(why));

  it('names still levels and missing ones', () => {
    expect(whyNoOnion(levelOf('Yard', '1', { kind: 'still' }), 0, onion)).toContain('Yard is a still level');
    expect(whyNoOnion(undefined, 0, onion)).toBe('there is no level');
  });
});
