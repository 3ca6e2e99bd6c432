import { describe, expect, it } from 'vitest';
import type { Level } from '@/core/document/model';
import { insertInbetween, renumberInOrder, setRoles, showAgain } from '@/core/edit/numberEdits';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { blockOf, columnAfter, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shotWith = (notation: string, extra: readonly string[] = []) => shotOf([levelOf('Sock', notation, { extra })], 24);
const levelIn = (shot: ReturnType<typeof shotWith>) => shot.levels[0] as Level;

describe('an in-between put in (worked by hand)', () => {
  it.each([
    ['1*4 2*4', 0, '1*2 1a*2 2*4'],
    ['1*5 2*4', 0, '1*3 1a*2 2*4'],
    ['1*2 1a*2 2*4', 0, '1 1b 1a*2 2*4'],
  ])('in %s at frame %i: %s', (before, frame, after) => {
    const shot = shotWith(before);
    expect(columnAfter(shot, insertInbetween(contextOn(shot), levelIn(shot), frame))).toBe(after);
  });

  it('needs two frames, and a drawing', () => {
    const shot = shotWith('1 2*2');
    expect(columnAfter(shot, insertInbetween(contextOn(shot), levelIn(shot), 0))).toContain('is held for one frame');
    expect(columnAfter(shot, insertInbetween(contextOn(shot), levelIn(shot), 20))).toContain('shows no drawing on frame 21');
  });
});

describe('numbers in order', () => {
  it('follow when drawings first show, those never exposed last', () => {
    const shot = shotWith('7*2 3*2 7*2 12a*2', ['5']);
    const edit = renumberInOrder(contextOn(shot), levelIn(shot));
    expect(columnAfter(shot, edit)).toBe('1*2 2*2 1*2 3*2');
    expect(mustBeDone(edit).says).toBe('Renumber Sock in order: 4 numbers of 4 change');
    const after = mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0]?.levels[0];
    expect(after?.drawings.map((drawing) => [drawing.id, drawing.number])).toEqual([
      ['Sock-7', '1'],
      ['Sock-3', '2'],
      ['Sock-12a', '3'],
      ['Sock-5', '4'],
    ]);
  });

  it('says when they are in order', () => {
    const shot = shotWith('1*2 2*2 1*2');
    expect(columnAfter(shot, renumberInOrder(contextOn(shot), levelIn(shot)))).toContain('in order already');
  });
});

describe('showing a drawing again', () => {
  it('covers the frames meant with the very same drawing', () => {
    const shot = shotWith('1*2 2*6');
    expect(columnAfter(shot, showAgain(contextOn(shot), levelIn(shot), ' 1 ', 4, 5))).toBe('1*2 2*2 1*2 2*2');
    expect(columnAfter(shot, showAgain(contextOn(shot), levelIn(shot), '9', 4, 5))).toContain('has no drawing 9');
  });
});

describe('roles', () => {
  it('are given to every drawing a block shows', () => {
    const shot = shotWith('1*2 2*2 3*2');
    const edit = mustBeDone(setRoles(contextOn(shot), blockOf(0, 3), 'key'));
    const roles = mustBeDone(applyStep(projectOf(shot), edit.step)).shots[0]?.levels[0]?.drawings.map((drawing) => drawing.role);
    expect(roles).toEqual(['key', 'key', 'inbetween']);
    expect(edit.says).toBe('2 drawings: key');
  });

  it('say when there is nothing to call', () => {
    const shot = shotWith('1*2');
    expect(columnAfter(shot, setRoles(contextOn(shot), blockOf(5, 8), 'key'))).toContain('no drawing here');
    expect(columnAfter(shot, setRoles(contextOn(shot), blockOf(0, 1), 'inbetween'))).toContain('an in-between already');
  });
});
