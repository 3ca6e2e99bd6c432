import { describe, expect, it } from 'vitest';
import type { Level, Shot } from '@/core/document/model';
import { nextNumber, numbersIn, planDrawings, rowOfDrawings } from '@/core/edit/planDrawings';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { notationOf, parseNotation } from '@/core/sheet/notation';
import { contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const NONE = { keys: [], breakdowns: [] };
const empty = shotOf([levelOf('Sock', '')], 96);
const level = (shot: Shot) => shot.levels[0] as Level;

function planned(
  shot: Shot,
  text: string,
  { at = 0, roles = NONE, grows = true }: { at?: number; roles?: { keys: string[]; breakdowns: string[] }; grows?: boolean } = {},
) {
  const edit = mustBeDone(planDrawings(contextOn(shot), level(shot), at, mustBeDone(parseNotation(text)), roles, grows));
  const project = projectOf(shot);
  const done = mustBeDone(applyStep(project, edit.step));
  expect(mustBeDone(applyStep(done, invertStep(project, edit.step)))).toEqual(project);
  return { says: edit.says, after: done.shots[0] as Shot };
}
const refusal = (outcome: { ok: boolean; reason?: string }) => (outcome.ok ? 'planned' : outcome.reason);

describe('planning many drawings', () => {
  it('is one step: 24 on twos, keys on 1, 9 and 24', () => {
    const written = mustBeDone(rowOfDrawings(24, 2, 1));
    const roles = { keys: [...numbersIn('1, 9 and 24')], breakdowns: ['5'] };
    const edit = mustBeDone(planDrawings(contextOn(empty), level(empty), 0, written, roles, true));
    expect(edit.says).toBe('Plan 24 drawings on Sock, frames 1–48');
    const after = mustBeDone(applyStep(projectOf(empty), edit.step)).shots[0] as Shot;
    expect(notationOf(level(after))).toBe(Array.from({ length: 24 }, (_, index) => `${index + 1}*2`).join(' '));
    expect(
      level(after)
        .drawings.filter(({ role }) => role === 'key')
        .map(({ number }) => number),
    ).toEqual(['1', '9', '24']);
    expect(
      level(after)
        .drawings.filter(({ role }) => role === 'breakdown')
        .map(({ number }) => number),
    ).toEqual(['5']);
    expect(after.frames).toBe(96);
  });

  it('takes a line of the sheet’s notation, with blanks and drawings that come again', () => {
    const { after, says } = planned(empty, '1*4 2 3 2 1*4 .*3 7a', { at: 10 });
    expect(notationOf(level(after))).toBe('.*10 1*4 2 3 2 1*4 .*3 7a');
    expect(level(after).drawings.map(({ number }) => number)).toEqual(['1', '2', '3', '7a']);
    expect(says).toBe('Plan 4 drawings on Sock, frames 11–25');
  });

  it('shows drawings again that are there, and gives them the role that is asked for', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*2')], 8);
    const { after, says } = planned(shot, '2 3 4', { at: 4, roles: { keys: ['2'], breakdowns: [] } });
    expect(notationOf(level(after))).toBe('1*2 2*3 3 4');
    expect(level(after).drawings.map(({ number, role }) => [number, role])).toEqual([
      ['1', 'inbetween'],
      ['2', 'key'],
      ['3', 'inbetween'],
      ['4', 'inbetween'],
    ]);
    expect(says).toContain('one that is there is shown again');
  });

  it.each([
    [true, 20, 'the shot goes from 8 to 20 frames'],
    [false, 8, ''],
  ])('lets the shot get as long as they need, or not: %s', (grows, frames, words) => {
    const { after, says } = planned(shotOf([levelOf('Sock', '')], 8), '1*10 2*10', { grows });
    expect(after.frames).toBe(frames);
    expect(says).toContain(words);
  });

  it('pushes or covers what is there as everything else does', () => {
    const shot = shotOf([levelOf('Sock', '1*4 2*4')], 8);
    const plan = (following: 'push' | 'overwrite') => {
      const context = { ...contextOn(shot), following };
      const edit = mustBeDone(planDrawings(context, level(shot), 4, mustBeDone(parseNotation('3*2')), NONE, false));
      return notationOf(level(mustBeDone(applyStep(projectOf(shot), edit.step)).shots[0] as Shot));
    };
    expect(plan('push')).toBe('1*4 3*2 2*4');
    expect(plan('overwrite')).toBe('1*4 3*2 2*2');
  });

  it('refuses what can’t be, with a sentence', () => {
    const plan = (text: string, roles: { keys: string[]; breakdowns: string[] }) =>
      refusal(planDrawings(contextOn(empty), level(empty), 0, mustBeDone(parseNotation(text)), roles, true));
    expect(plan('1 2', { keys: ['9'], breakdowns: [] })).toBe('9 is to be a key, and is not among the drawings.');
    expect(plan('1 2', { keys: ['1'], breakdowns: ['1'] })).toBe('1 can’t be a key and a breakdown.');
    expect(plan('', NONE)).toBe('Write at least one drawing.');
    expect(refusal(rowOfDrawings(0, 2, 1))).toContain('how many drawings');
    expect(refusal(rowOfDrawings(10, 0, 1))).not.toBe('planned');
    expect(refusal(rowOfDrawings(9999, 2, 1))).toContain('too many at once');
    expect(refusal(rowOfDrawings(3, 2, 0))).toContain('number of the first drawing');
    const still = shotOf([levelOf('Yard', '', { kind: 'still' })], 8);
    expect(refusal(planDrawings(contextOn(still), level(still), 0, mustBeDone(parseNotation('1')), NONE, true))).toContain('still level');
  });

  it('counts on from the level’s own numbers', () => {
    expect(nextNumber(level(empty))).toBe(1);
    expect(nextNumber(levelOf('Sock', '1 12a 7'))).toBe(13);
  });
});
