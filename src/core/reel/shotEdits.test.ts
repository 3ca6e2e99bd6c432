import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Level, newLevel, type Project, type Shot } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import { joinWithNext } from '@/core/reel/joinShots';
import { reelChange } from '@/core/reel/moved';
import { placedShots } from '@/core/reel/reel';
import { codeBetween, duplicateShot, removeShot } from '@/core/reel/shotEdits';
import { splitShot } from '@/core/reel/splitShot';
import { layersAt } from '@/core/render/shotRuns';
import { leavingLevels, stackKey } from '@/core/render/stacks';
import { notationOf } from '@/core/sheet/notation';
import { compareNumbers } from '@/core/sheet/numbers';
import { tidyRuns } from '@/core/sheet/runs';
import { record } from '@/core/testing/record';
import { ids, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';
import { fraction } from '@/core/time/fraction';

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

/** A project after an edit, which must undo to what was there. */
function made(before: Project, edit: Outcome<Edit>): Project {
  const { step } = mustBeDone(edit);
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
    const onReel = placedShots(next).map(({ shot }) => shot);
    expect(onReel.map((shot) => shot.code)).toEqual(['010', '015', '020']);
    const copy = onReel[1] as Shot;
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
    // The chart runs from 1 in the first half to 3 in the second: it stays whole, with its drawings, and is named before.
    expect(next.shots.map((shot) => shot.levels.flatMap((level) => level.charts))).toEqual([[chart], [], []]);
    expect(next.shots[0]?.levels[1]?.drawings.map((drawing) => drawing.number)).toEqual(['1', '2', '3']);
    expect(mustBeDone(splitShot(project, first, 6, ids())).says).toContain('the chart of Sock 1 to 3 stays whole in 010');
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
    const edit = removeShot(first);
    expect(mustBeDone(edit).says).toBe('Remove shot 010 with its 12 frames and 4 drawings');
    expect(reelChange(project, made(project, edit))).toEqual({
      framesBefore: 16,
      framesAfter: 4,
      moved: [{ itemId: 'shot-020', name: '020', before: 12, after: 0 }],
    });
  });
});

describe('splits and joins of any shots', () => {
  const PICTURES = ['a', 'b', '-'] as const;
  const level = (shot: string) =>
    record({
      name: fc.constantFrom('Sock', 'Yard', 'Line'),
      kind: fc.constantFrom('animated' as const, 'animated' as const, 'still' as const, 'guide' as const),
      visible: fc.constantFrom(true, true, false),
      opacityPercent: fc.constantFrom(100, 100, 60),
      blend: fc.constantFrom('normal' as const, 'normal' as const, 'multiply' as const),
      numbers: fc.uniqueArray(fc.constantFrom('1', '2', '3', '4a', '5'), { minLength: 1, maxLength: 4 }),
      pictures: fc.array(fc.constantFrom(...PICTURES), { minLength: 5, maxLength: 5 }),
      runs: fc.array(fc.tuple(fc.nat(4), fc.integer({ min: 1, max: 4 })), { maxLength: 6 }),
      hasChart: fc.boolean(),
      id: fc.constant(shot),
    });
  type Part = typeof level extends (shot: string) => fc.Arbitrary<infer P> ? P : never;
  const built = ({ name, kind, visible, opacityPercent, blend, numbers, pictures, runs, hasChart, id }: Part, index: number): Level => {
    const sorted = numbers.toSorted(compareNumbers);
    const drawings = sorted.map((number, each) => {
      const letter = pictures[each] ?? '-';
      return { id: `${id}${index}-${number}`, number, role: 'inbetween' as const, picture: letter === '-' ? null : pictureOf(letter) };
    });
    const exposures = kind === 'still' ? [] : tidyRuns(runs.map(([pick, frames]) => ({ drawing: drawings[pick]?.id ?? null, frames })));
    const [from, to] = [drawings[0], drawings.at(-1)];
    const charts =
      hasChart && from && to && from !== to
        ? [
            {
              ...chart,
              id: `${id}${index}-chart`,
              fromDrawing: from.id,
              toDrawing: to.id,
              ticks: [{ place: fraction(1, 2), drawing: drawings[1]?.id ?? null }],
              path: [{ x: 3, y: 4 }],
            },
          ]
        : [];
    return { ...newLevel(`${id}${index}`, name, kind), visible, opacityPercent, blend, drawings, exposures, charts };
  };
  const shot = (code: string, name = code) =>
    fc
      .record({ frames: fc.integer({ min: 2, max: 12 }), levels: fc.array(level(name), { minLength: 1, maxLength: 4 }) })
      .map(({ frames, levels }): Shot => shotOf(levels.map(built), frames, code));
  /** A brute-force sheet: what every frame of the reel shows, one after the other. */
  const film = ({ shots }: Project) =>
    shots.flatMap((each) => Array.from({ length: each.frames }, (_, frame) => stackKey(layersAt(leavingLevels(each), frame))));

  it('change the picture of no frame', () => {
    fc.assert(
      fc.property(shot('010'), shot('020'), fc.nat(10), (one, other, cut) => {
        const before = projectOf(one, other);
        expect(film(made(before, joinWithNext(before, one, ids())))).toEqual(film(before));
        if (cut >= 1 && cut < one.frames) expect(film(made(before, splitShot(before, one, cut, ids())))).toEqual(film(before));
      }),
      { numRuns: 500 },
    );
  });

  it('one after the other leave the shot as it was', () => {
    /** A shot with its ids named by what they stand for. */
    const byNumber = (each: Shot | undefined) =>
      each?.levels.map((one) => {
        const number = (id: string | null) => one.drawings.find((drawing) => drawing.id === id)?.number ?? null;
        return {
          ...one,
          drawings: one.drawings.map(({ id: _id, ...rest }) => rest),
          exposures: one.exposures.map((run) => [number(run.drawing), run.frames]),
          charts: one.charts
            .map(({ id: _id, ...rest }) => ({
              ...rest,
              fromDrawing: number(rest.fromDrawing),
              toDrawing: number(rest.toDrawing),
              ticks: rest.ticks.map((tick) => ({ ...tick, drawing: number(tick.drawing) })),
            }))
            .toSorted((a, b) => (a.fromDrawing ?? '').localeCompare(b.fromDrawing ?? '')),
        };
      });
    fc.assert(
      fc.property(shot('010'), fc.integer({ min: 1, max: 11 }), (one, cut) => {
        fc.pre(cut < one.frames);
        const before = projectOf(one);
        const newId = ids();
        const split = made(before, splitShot(before, one, cut, newId));
        const joined = made(split, joinWithNext(split, split.shots[0] as Shot, newId));
        expect(joined.shots).toHaveLength(1);
        expect(byNumber(joined.shots[0])).toEqual(byNumber(one));
        // Once more, at another place: copies of copies find each other as well.
        const again = made(joined, splitShot(joined, joined.shots[0] as Shot, 1, newId));
        expect(byNumber(made(again, joinWithNext(again, again.shots[0] as Shot, newId)).shots[0])).toEqual(byNumber(one));
      }),
      { numRuns: 500 },
    );
  });

  it('say beforehand what a join cuts off and numbers anew', () => {
    const long = shotOf([levelOf('Sock', '1*2 2*4', { pictures: 'ab' })], 4);
    const next = shotOf([levelOf('Sock', '2*2', { pictures: 'z', id: 'S2' })], 2, '020');
    expect(mustBeDone(joinWithNext(projectOf(long, next), long, ids())).says).toBe(
      'Join 020 to 010: one shot of 6 frames; the reel stays as long as it is; what ran past the end of 010 is cut: Sock by 2 frames; renumbered: Sock 2 to 3',
    );
  });
});
