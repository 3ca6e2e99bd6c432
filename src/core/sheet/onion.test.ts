import { describe, expect, it } from 'vitest';
import { FIRST_ONION, neighboursInReach, type OnionSkin, onionSheets, reachTo, whyNoOnion } from '@/core/sheet/onion';
import { levelOf, shotOf } from '@/core/testing/sheets';

const onion: OnionSkin = { ...FIRST_ONION, before: 2, after: 1, beforePercent: 50, afterPercent: 40 };
const level = levelOf('Sock', '1*2 2*2 3*2 .*2 4*2 5*2', { pictures: 'abcde' });
const other = levelOf('Peg', '1*4 2*4 3*4', { pictures: 'xyz' });
const shot = shotOf([other, level]);
const letters = (frame: number, part: Partial<OnionSkin> = {}, on = level) =>
  onionSheets(shotOf([other, on]), on, frame, { ...onion, ...part }).map((sheet) => `${sheet.side}:${sheet.picture[0]}`);

describe('onionSheets', () => {
  it.each([
    [4, ['after:d', 'before:a', 'before:b']],
    [5, ['after:d', 'before:a', 'before:b']],
    [6, ['after:d', 'before:b', 'before:c']],
    [0, ['after:b']],
    [11, ['before:c', 'before:d']],
  ])('on frame %i are %j: by drawing, blanks passed over, the furthest first', (frame, sheets) => expect(letters(frame)).toEqual(sheets));

  it.each([
    [4, { by: 'frame' as const, before: 3, after: 2 }, ['before:a', 'before:b']],
    [4, { by: 'frame' as const, before: 1, after: 4 }, ['after:d', 'before:b']],
    [5, { by: 'frame' as const, before: 1, after: 1 }, []],
  ])('on frame %i with %o: counted in frames, a drawing no more than once', (frame, part, sheets) =>
    expect(letters(frame, part)).toEqual(sheets),
  );

  it('fade with distance', () => {
    const alphas = (fadePercent: number) =>
      onionSheets(shot, level, 4, { ...onion, after: 0, fadePercent }).map((sheet) => Math.round(sheet.alpha * 1000) / 1000);
    expect([alphas(40), alphas(0), alphas(100)]).toEqual([[0.3, 0.5], [0.5, 0.5], [0.5]]);
  });

  it('leave out drawings not drawn yet, still levels, and the drawing that shows', () => {
    expect(letters(2, {}, levelOf('Sock', '1*2 2*2', { pictures: '-b' }))).toEqual([]);
    expect(letters(0, {}, levelOf('Yard', '1', { kind: 'still', pictures: 'a' }))).toEqual([]);
    expect(letters(3, { after: 0 }, levelOf('Sock', '1*2 2 1*2', { pictures: 'ab' }))).toEqual(['before:b']);
  });

  it('leave out single neighbours that are off, and take in other levels and pinned drawings below', () => {
    expect(letters(4, { off: ['Sock-1'] })).toEqual(['after:d', 'before:b']);
    expect(letters(4, { alsoLevelIds: ['Peg'] })).toEqual(['after:z', 'before:x', 'after:d', 'before:a', 'before:b']);
    expect(letters(4, { pinned: [{ levelId: 'Sock', drawingId: 'Sock-5' }] })).toEqual(['pinned:e', 'after:d', 'before:a', 'before:b']);
    expect(letters(10, { before: 0, after: 0, pinned: [{ levelId: 'Sock', drawingId: 'Sock-5' }] })).toEqual([]);
  });

  it('are none when it is switched off', () => expect(letters(4, { on: false })).toEqual([]));
});

describe('whyNoOnion', () => {
  it.each<[Partial<OnionSkin>, number, string | null]>([
    [{ on: false }, 4, 'switched off'],
    [{ before: 0, after: 0 }, 4, 'it reaches over no drawing'],
    [{ beforePercent: 0, afterPercent: 0 }, 4, 'its strength is 0'],
    [{ before: 2, after: 0 }, 0, 'no drawn neighbour within its reach'],
    [{ before: 1, after: 0, off: ['Sock-2'] }, 4, 'its neighbours are switched off on the sheet'],
    [{}, 4, null],
  ])('%o on frame %i: %s', (part, frame, why) => expect(whyNoOnion(shot, level, frame, { ...onion, ...part })).toBe(why));

  it('names still levels and missing ones', () => {
    const still = levelOf('Yard', '1', { kind: 'still' });
    expect(whyNoOnion(shotOf([still]), still, 0, onion)).toContain('Yard is a still level');
    expect(whyNoOnion(shot, undefined, 0, onion)).toBe('there is no level');
  });
});

describe('reachTo', () => {
  it.each([
    [4, 3, 'before', 1],
    [4, 2, 'before', 1],
    [4, 1, 'before', 2],
    [4, -5, 'before', 2],
    [4, 4, 'before', 0],
    [4, 7, 'after', 0],
    [4, 8, 'after', 1],
    [4, 11, 'after', 2],
    [4, 40, 'after', 2],
  ] as const)('from frame %i pulled to %i, %s: %i drawings', (frame, toFrame, side, reach) => {
    expect(reachTo(level, frame, toFrame, side, 'drawing')).toBe(reach);
  });

  it('counts frames when neighbours go by frames', () => {
    expect(reachTo(level, 4, 1, 'before', 'frame')).toBe(3);
    expect(reachTo(level, 4, 40, 'after', 'frame')).toBe(6);
  });

  it('is what is then in reach', () => {
    for (let toFrame = 0; toFrame < 4; toFrame++) {
      const before = reachTo(level, 4, toFrame, 'before', 'drawing');
      const furthest = neighboursInReach(level, 4, { ...onion, before, after: 0 }).at(-1);
      expect(furthest === undefined || furthest.run.endFrame > toFrame).toBe(true);
    }
  });
});
