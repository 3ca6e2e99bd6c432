import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type BringingChoices, type BroughtPicture, bringIn } from '@/core/bring/bringIn';
import { framesOfDelays } from '@/core/bring/delays';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { record } from '@/core/testing/record';
import { columnIn, contextOn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const RATE = { num: 24, den: 1 };
const picture = (letter: string, delayMilliseconds: number | null = null): BroughtPicture => ({
  name: `${letter}.png`,
  picture: pictureOf(letter),
  delayMilliseconds,
  fileNumber: null,
});
const pictures = (letters: string) => letters.split('').map((letter) => picture(letter));
const choices: BringingChoices = {
  order: 'asNamed',
  timing: { kind: 'each', frames: 2 },
  equal: 'each',
  numbers: 'counted',
  gaps: 'closed',
  onto: { kind: 'newLevel', levelKind: 'animated', name: 'In' },
  startFrame: 0,
  roomFrames: 'keepLength',
};
const sock = levelOf('Sock', '1*4 2*4');
const shot = shotOf([sock], 12);

function column(letters: string, part: Partial<BringingChoices>, following: 'push' | 'overwrite' = 'push') {
  const bringing = bringIn(contextOn(shot, following), pictures(letters), { ...choices, ...part }, RATE);
  if (!bringing.edit.ok) return bringing.edit.reason;
  const after = mustBeDone(applyStep(projectOf(shot), bringing.edit.value.step));
  const level = after.shots[0]?.levels.find(({ name }) => name === 'In') ?? after.shots[0]?.levels[0];
  return `${columnIn(after, level?.id ?? '')} | ${after.shots[0]?.frames}`;
}

describe('files whose numbers have a gap', () => {
  const numbered = (numbers: readonly number[]): BroughtPicture[] =>
    numbers.map((number, index) => ({ ...picture('abcdefgh'[index] ?? 'a'), fileNumber: number }));
  const columnOf = (numbers: readonly number[], part: Partial<BringingChoices>) => {
    const bringing = bringIn(contextOn(shot), numbered(numbers), { ...choices, ...part }, RATE);
    if (!bringing.edit.ok) return bringing.edit.reason;
    const after = mustBeDone(applyStep(projectOf(shot), bringing.edit.value.step));
    const level = after.shots[0]?.levels.find(({ name }) => name === 'In') ?? after.shots[0]?.levels[0];
    return columnIn(after, level?.id ?? '');
  };

  it.each<[readonly number[], Partial<BringingChoices>, string]>([
    [[13, 14, 16], {}, '1*2 2*2 3*2'],
    [[13, 14, 16], { numbers: 'ofFiles' }, '13*2 14*2 16*2'],
    [[13, 14, 16], { numbers: 'ofFiles', gaps: 'held' }, '13*2 14*4 16*2'],
    [[13, 14, 16], { gaps: 'held', timing: { kind: 'each', frames: 1 } }, '1 2*2 3'],
    [[13, 14, 16], { numbers: 'ofFiles', gaps: 'held', order: 'reversed' }, '16*4 14*2 13*2'],
    // Two files of one number: the second is counted on.
    [[3, 3, 5], { numbers: 'ofFiles' }, '3*2 1*2 5*2'],
  ])('%o as %o are %s', (numbers, part, notation) => expect(columnOf(numbers, part)).toBe(notation));

  it('keep no number that the level has already', () => {
    const onto = { kind: 'level' as const, level: sock };
    expect(columnOf([2, 3], { numbers: 'ofFiles', onto })).toBe(
      'Sock has a drawing 2 already: let the pictures be counted on, or bring them onto a new level.',
    );
    expect(columnOf([8, 9], { numbers: 'ofFiles', onto, startFrame: 8 })).toBe('1*4 2*4 8*2 9*2');
  });
});

describe('bringIn', () => {
  it.each<[string, Partial<BringingChoices>, string]>([
    ['abc', {}, '1*2 2*2 3*2 | 12'],
    ['abc', { order: 'reversed', timing: { kind: 'each', frames: 1 } }, '1 2 3 | 12'],
    ['aabca', { equal: 'each' }, '1*2 2*2 3*2 4*2 5*2 | 12'],
    ['aabca', { equal: 'held' }, '1*4 2*2 3*2 4*2 | 12'],
    ['aabca', { equal: 'shared' }, '1*4 2*2 3*2 1*2 | 12'],
    ['ab', { startFrame: 3 }, '.*3 1*2 2*2 | 12'],
    ['abcdefgh', { roomFrames: 'growShot' }, '1*2 2*2 3*2 4*2 5*2 6*2 7*2 8*2 | 16'],
    [
      'ab',
      { onto: { kind: 'newLevel', levelKind: 'still', name: 'In' } },
      'A still level has one drawing: bring in one picture, or choose another kind of level.',
    ],
    ['', {}, 'There is no picture to bring in.'],
    ['a', { timing: { kind: 'each', frames: 0 } }, 'A length of 0 frames can’t be: it must be a whole number from 1 to 2,000,000.'],
  ])('%s, %o: %s', (letters, part, expected) => {
    expect(column(letters, part).replaceAll("'", '’')).toContain(expected.slice(0, 24));
    if (expected.includes('|')) expect(column(letters, part)).toBe(expected);
  });

  it('onto a level pushes what follows or covers it, numbered on from what is there', () => {
    const onto = { kind: 'level' as const, level: sock };
    expect(column('ab', { onto, startFrame: 4 }, 'push')).toBe('1*4 3*2 4*2 2*4 | 12');
    expect(column('ab', { onto, startFrame: 2 }, 'overwrite')).toBe('1*2 3*2 4*2 2*2 | 12');
    expect(column('ab', { onto, startFrame: 10 }, 'overwrite')).toBe('1*4 2*4 .*2 3*2 4*2 | 12');
  });

  it('says beforehand what it makes', () => {
    const { edit, drawings, frames } = bringIn(
      contextOn(shot),
      pictures('aabca'),
      { ...choices, equal: 'shared', roomFrames: 'growShot', startFrame: 6 },
      RATE,
    );
    expect([drawings, frames]).toEqual([3, 10]);
    expect(mustBeDone(edit).says).toBe(
      'Bring in 4 pictures as 3 drawings on a new level In, frames 7–16; shot 010 grows from 12 to 16 frames',
    );
  });

  it('holds as many frames as it says, whatever is chosen', () => {
    fc.assert(
      fc.property(
        fc.array(record({ letter: fc.constantFrom('a', 'b', 'c'), delay: fc.option(fc.integer({ min: 0, max: 900 })) }), {
          minLength: 1,
          maxLength: 12,
        }),
        fc.constantFrom('each' as const, 'held' as const, 'shared' as const),
        fc.boolean(),
        fc.integer({ min: 0, max: 9 }),
        (list, equal, own, startFrame) => {
          const timing = own ? ({ kind: 'own' } as const) : ({ kind: 'each', frames: 3 } as const);
          const brought = list.map(({ letter, delay }) => picture(letter, delay));
          const bringing = bringIn(contextOn(shot), brought, { ...choices, equal, timing, startFrame }, RATE);
          const after = mustBeDone(applyStep(projectOf(shot), mustBeDone(bringing.edit).step));
          const level = after.shots[0]?.levels.find(({ name }) => name === 'In');
          expect(level?.exposures.reduce((sum, run) => sum + run.frames, 0)).toBe(startFrame + bringing.frames);
          expect(level?.drawings).toHaveLength(bringing.drawings);
        },
      ),
    );
  });
});

describe('framesOfDelays', () => {
  it.each([
    [[100, 100, 100, 100, 100], RATE, [2, 3, 2, 3, 2]],
    [[40, 40, 40], { num: 25, den: 1 }, [1, 1, 1]],
    [[1000], { num: 24000, den: 1001 }, [24]],
    [[0, 0, 500], RATE, [1, 1, 10]],
    [[10, 10, 10, 970], RATE, [1, 1, 1, 21]],
  ])('%j at %o: %j', (delays, rate, frames) => expect(framesOfDelays(delays, rate).map((each) => each.frames)).toEqual(frames));

  it('drifts by no more than half a frame unless a picture without a frame was kept', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 42, max: 2000 }), { minLength: 1, maxLength: 40 }), (delays) => {
        for (const { driftMilliseconds, isKept } of framesOfDelays(delays, RATE)) {
          expect(isKept).toBe(false);
          expect(Math.abs(driftMilliseconds)).toBeLessThanOrEqual(20.834);
        }
      }),
    );
  });

  it('says which pictures were kept, and how late that makes what follows', () => {
    expect(framesOfDelays([5, 5, 200], RATE)).toEqual([
      { delayMilliseconds: 5, frames: 1, driftMilliseconds: 36.667, isKept: true },
      { delayMilliseconds: 5, frames: 1, driftMilliseconds: 73.333, isKept: true },
      { delayMilliseconds: 200, frames: 3, driftMilliseconds: -1.667, isKept: false },
    ]);
  });
});
