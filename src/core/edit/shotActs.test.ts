import { describe, expect, it } from 'vitest';
import type { Act } from '@/core/edit/act';
import { codeBetween, duplicateShot, joinWithNext, removeShot, splitShot } from '@/core/edit/shotActs';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import { reelChange } from '@/core/reel/moved';
import type { Project, Shot } from '@/core/sheet/document';
import { fraction } from '@/core/sheet/fraction';
import { notationOf } from '@/core/sheet/notation';
import { ids, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const chart = {
  id: 'c',
  fromDrawing: 'Sock-1',
  toDrawing: 'Sock-3',
  shape: 'even' as const,
  ticks: [{ place: fraction(1, 2), drawing: 'Sock-2' }],
  path: [],
};
const first: Shot = {
  ...shotOf(
    [levelOf('Yard', '1', { kind: 'still', pictures: 'y' }), { ...levelOf('Sock', '1*4 2*4 3*4', { pictures: 'abc' }), charts: [chart] }],
    12,
  ),
  notes: [
    { frame: 2, kind: 'note', words: 'a' },
    { frame: 8, kind: 'note', words: 'b' },
  ],
};
const second = shotOf([levelOf('Sock', '1*2 4*2', { pictures: 'ad', id: 'Sock2' }), levelOf('Line', '1*4', { id: 'Line2' })], 4, '020');
const project = projectOf(first, second);

/** A project after an act, which must undo to what was there. */
function made(before: Project, act: Outcome<Act>): Project {
  const { step } = mustBeDone(act);
  const next = mustBeDone(applyStep(before, step));
  expect(mustBeDone(applyStep(next, invertStep(before, step)))).toEqual(before);
  return next;
}
const columnsOf = (shot: Shot | undefined) => shot?.levels.map((level) => `${level.name}: ${notationOf(level)}`);

describe('a shot code between others', () => {
  it.each([
    [[], 0, '010'],
    [['010', '020'], 2, '030'],
    [['010', '020'], 1, '015'],
    [['010', '011'], 1, '010a'],
    [['010', '010a', '011'], 1, '010b'],
    [['010'], 0, '005'],
    [['A', 'B'], 1, 'Aa'],
  ])('of %o at place %i is %s', (codes, index, code) => {
    const shots = codes.map((each) => shotOf([levelOf('Sock', '1')], 4, each));
    expect(codeBetween(projectOf(...shots), index)).toBe(code);
  });
});

describe('a duplicate', () => {
  it('stands after its shot, with ids of its own throughout and its chart tied to its own drawings', () => {
    const next = made(project, duplicateShot(project, first, ids()));
    expect(next.shots.map((shot) => shot.code)).toEqual(['010', '015', '020']);
    const copy = next.shots[1] as Shot;
    expect(columnsOf(copy)).toEqual(columnsOf(first));
    const own = new Set(copy.levels.flatMap((level) => level.drawings.map((drawing) => drawing.id)));
    expect([...own].every((id) => id.startsWith('new'))).toBe(true);
    const copied = copy.levels[1]?.charts[0];
    expect([copied?.fromDrawing, copied?.toDrawing, copied?.ticks[0]?.drawing].every((id) => own.has(id ?? ''))).toBe(true);
  });
});

describe('a split', () => {
  it('gives each half its exposures, drawings and notes; a still level is in both', () => {
    const next = made(project, splitShot(project, first, 6, ids()));
    expect(next.shots.map((shot) => [shot.code, shot.frames])).toEqual([
      ['010', 6],
      ['015', 6],
      ['020', 4],
    ]);
    expect(columnsOf(next.shots[0])).toEqual(['Yard: ', 'Sock: 1*4 2*2']);
    expect(columnsOf(next.shots[1])).toEqual(['Yard: ', 'Sock: 2*2 3*4']);
    expect(next.shots.map((shot) => shot.notes.map((note) => note.frame))).toEqual([[2], [2], []]);
    expect(next.shots[1]?.levels[0]?.drawings[0]?.picture).toBe(first.levels[0]?.drawings[0]?.picture);
    expect(next.shots.flatMap((shot) => shot.levels.flatMap((level) => level.charts))).toEqual([]);
  });

  it.each([0, 12, 40])('is refused before frame index %i', (frame) =>
    expect(splitShot(project, first, frame, ids())).toMatchObject({ ok: false }),
  );

  it('moves nothing on the reel, and joined again the frames are those of before', () => {
    const split = made(project, splitShot(project, first, 6, ids()));
    expect(reelChange(project, split)).toMatchObject({ framesBefore: 16, framesAfter: 16, moved: [] });
    const joined = made(split, joinWithNext(split, split.shots[0] as Shot, ids()));
    expect(columnsOf(joined.shots[0])).toEqual(columnsOf(first));
    expect(joined.shots[0]?.notes).toEqual(first.notes);
  });
});

describe('two shots joined', () => {
  it('go on by level name: the same number with the same picture is one drawing, others come after', () => {
    const next = made(project, joinWithNext(project, first, ids()));
    expect(next.shots).toHaveLength(1);
    expect(columnsOf(next.shots[0])).toEqual(['Yard: 1*12', 'Sock: 1*4 2*4 3*4 1*2 4*2', 'Line: .*12 1*4']);
    expect(next.shots[0]).toMatchObject({ frames: 16 });
    expect(next.shots[0]?.levels[0]?.kind).toBe('animated');
  });

  it('give a number that another picture has a new one', () => {
    const other = shotOf([levelOf('Sock', '2*2', { pictures: 'z', id: 'S2' })], 2, '020');
    const next = made(projectOf(first, other), joinWithNext(projectOf(first, other), first, ids()));
    expect(columnsOf(next.shots[0])?.[1]).toBe('Sock: 1*4 2*4 3*4 4*2');
  });

  it('need a shot after', () => expect(joinWithNext(project, second, ids())).toMatchObject({ ok: false }));
});

describe('a removed shot', () => {
  it('names what goes, and what follows moves up on the reel', () => {
    const act = removeShot(first);
    expect(mustBeDone(act).says).toBe('Remove shot 010 with its 12 frames and 4 drawings');
    expect(reelChange(project, made(project, act))).toEqual({
      framesBefore: 16,
      framesAfter: 4,
      moved: [{ code: '020', before: 12, after: 0 }],
    });
  });
});
