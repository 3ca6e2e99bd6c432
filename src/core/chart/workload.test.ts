import { describe, expect, it } from 'vitest';
import { daysOfWork, drawingsPerSecond, leftToDraw, savingsOf, wholePlace, workByRole } from '@/core/chart/workload';
import type { Level, Shot } from '@/core/document/model';
import { setStepKeepingTime } from '@/core/edit/blockEdits';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { blockOf, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const after = (first: Shot, shot: Shot) => ({ shot, fromFrame: 0, startFrame: first.frames, endFrame: first.frames + shot.frames });
const level = (notation: string, pictures = '') => levelOf('Sock', notation, { pictures });

describe('the work', () => {
  it('is told by role, guides left out', () => {
    const sock = level('1*2 2*2 3*2', 'a-b');
    const roles: Level = {
      ...sock,
      drawings: sock.drawings.map((drawing, index) => ({ ...drawing, role: index === 0 ? 'key' : 'inbetween' })),
    };
    const shot = shotOf([roles, levelOf('Clip', '1 2 3', { kind: 'guide' })], 24);
    expect(workByRole([shot])).toEqual({
      key: { drawings: 1, drawn: 1 },
      breakdown: { drawings: 0, drawn: 0 },
      inbetween: { drawings: 2, drawn: 1 },
    });
  });

  it('that is left stands in the order it shows', () => {
    const sock = levelOf('Sock', '3*2 1*2 2*2', { pictures: '-a-', extra: ['9'] });
    expect(leftToDraw(sock).map(({ drawing, firstFrame }) => [drawing.number, firstFrame])).toEqual([
      ['3', 0],
      ['2', 4],
      ['9', null],
    ]);
  });

  it.each([
    [30, 12, 3],
    [24, 12, 2],
    [1, 12, 1],
    [0, 12, 0],
  ])('%i left at %i a day takes %i days', (left, perDay, days) => expect(daysOfWork(left, perDay)).toBe(days));

  it('never gets done at none a day', () => expect(() => daysOfWork(5, 0)).toThrow());
});

describe('drawings a second', () => {
  it('count changes and fresh drawings over the shots in a row (worked by hand)', () => {
    const first: Shot = shotOf([level(Array.from({ length: 6 }, (_, index) => `${index + 1}*2`).join(' '))], 12);
    const second: Shot = shotOf([levelOf('Line', '1*6 2*6 1*6 2*6')], 24, '020');
    // At 12 a second: second 0 has six on twos, second 1 two held six, second 2 the same two again.
    expect(drawingsPerSecond([wholePlace(first), after(first, second)], { num: 12, den: 1 })).toEqual([
      { second: 0, changes: 6, fresh: 6 },
      { second: 1, changes: 2, fresh: 2 },
      { second: 2, changes: 2, fresh: 0 },
    ]);
  });

  it('end with the shot, and begin none for a still level', () => {
    const shot = shotOf([level('1*12 2*12 3*12'), levelOf('Yard', '1', { kind: 'still' })], 24);
    // From its 13th frame on, after half a second of nothing: drawing 2 is shown from the first frame, 3 never.
    expect(
      drawingsPerSecond(
        [
          { shot: null, fromFrame: 0, startFrame: 0, endFrame: 12 },
          { shot, fromFrame: 13, startFrame: 12, endFrame: 23 },
        ],
        { num: 12, den: 1 },
      ),
    ).toEqual([
      { second: 0, changes: 0, fresh: 0 },
      { second: 1, changes: 1, fresh: 1 },
    ]);
    expect(drawingsPerSecond([wholePlace(shot)], { num: 24, den: 1 })).toEqual([{ second: 0, changes: 2, fresh: 2 }]);
  });
});

describe('what going to twos would save', () => {
  it.each([
    ['1 2 3 4 5 6 7 8', [['2', '4', '6', '8']]],
    ['1*2 2 3 4 5*2', [['3']]],
    ['1 2*2 3', []],
    ['1 2 1 2', [['2']]],
    ['1 2 .*4 2', []],
    ['1 2 9*4 3 4', [['2'], ['4']]],
  ])('on %s is %o', (notation, saved) => expect(savingsOf(level(notation), 2).map((saving) => saving.saved)).toEqual(saved));

  it('keeps to the frames it is asked about', () => {
    expect(savingsOf(level('1 2 3 4 5 6 7 8'), 2, 4, 7).map((saving) => [saving.fromFrame, saving.toFrame, saving.saved])).toEqual([
      [4, 7, ['6', '8']],
    ]);
    expect(savingsOf(levelOf('Clip', '1 2 3 4', { kind: 'guide' }), 2)).toEqual([]);
  });

  it('is exactly what the edit then no longer exposes', () => {
    const shot = shotOf([level('1*2 2 3 4 5 1 6*3')], 24);
    const [saving] = savingsOf(shot.levels[0] as Level, 2);
    const edit = mustBeDone(setStepKeepingTime(contextOn(shot), blockOf(saving?.fromFrame ?? 0, saving?.toFrame ?? 0), 2));
    const after = mustBeDone(applyStep(projectOf(shot), edit.step)).shots[0]?.levels[0];
    const shown = new Set(after?.exposures.map((run) => run.drawing));
    expect(saving?.saved).toEqual(after?.drawings.filter((drawing) => !shown.has(drawing.id)).map((drawing) => drawing.number));
  });
});
