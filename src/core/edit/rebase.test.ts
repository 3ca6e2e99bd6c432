import { describe, expect, it } from 'vitest';
import type { Project, SheetNote } from '@/core/document/model';
import { rebase } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { placedShots } from '@/core/reel/reel';
import { addShotOf, columnIn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const sock = { shotId: 'shot-010', levelId: 'Sock' };
const base = projectOf(
  shotOf([levelOf('Yard', '1', { kind: 'still', pictures: 'a' }), levelOf('Sock', '1*10 3*9 5*2 6*2', { pictures: 'bcd' })], 40),
  shotOf([levelOf('Snail', '1*2 2*2')], 8, '020'),
);

const insertThreeAtTop: Step = { type: 'replaceRuns', ...sock, startFrame: 0, removedFrames: 0, runs: [{ drawing: null, frames: 3 }] };
const lengthFourForFive: Step = { type: 'setLength', ...sock, atFrame: 19, frames: 4, following: 'push' };
const drawOnFive = (letter: string): Step => ({ type: 'setPicture', ...sock, drawingId: 'Sock-5', picture: pictureOf(letter) });

const drawingIn = (project: Project, id: string) =>
  project.shots.flatMap((shot) => shot.levels.flatMap((level) => level.drawings)).find((drawing) => drawing.id === id);

describe('two windows: what one made, not knowing what the other had made first', () => {
  it('an exposure is found again where inserted frames moved it to', () => {
    const { project, mine } = rebase(base, [insertThreeAtTop], [lengthFourForFive]);
    expect(mine).toEqual([{ kind: 'made', step: { ...lengthFourForFive, atFrame: 22 } }]);
    expect(columnIn(project, 'Sock')).toBe('.*3 1*10 3*9 5*4 6*2');
  });

  it('a drawing that was deleted is a conflict for who drew on it', () => {
    const { project, mine } = rebase(base, [{ type: 'deleteDrawing', ...sock, drawingId: 'Sock-5' }], [drawOnFive('e')]);
    expect(mine).toEqual([{ kind: 'conflict', reason: 'Sock has no drawing Sock-5 any more.' }]);
    expect(drawingIn(project, 'Sock-5')).toBeUndefined();
  });

  it('a drawing that both drew on is a conflict, and so is what was drawn on top of that', () => {
    const { project, mine } = rebase(base, [drawOnFive('e')], [drawOnFive('f'), drawOnFive('0')]);
    expect(mine.map((each) => each.kind)).toEqual(['conflict', 'conflict']);
    expect(drawingIn(project, 'Sock-5')?.picture).toBe(pictureOf('e'));
  });

  it('a level that is renamed and moved is both', () => {
    const moved: Step = { type: 'moveLevel', ...sock, index: 0 };
    const renamed: Step = { type: 'describeLevel', ...sock, change: { name: 'Stocking' } };
    for (const [theirs, ours] of [
      [renamed, moved],
      [moved, renamed],
    ] as const) {
      const { project, mine } = rebase(base, [theirs], [ours]);
      expect(mine).toEqual([{ kind: 'made', step: ours }]);
      expect(project.shots[0]?.levels.map((level) => level.name)).toEqual(['Stocking', 'Yard']);
    }
  });

  it('an exposure set while the rate changed is a conflict, told in time', () => {
    const at12 = { ...base, rate: { num: 12, den: 1 } };
    const { mine } = rebase(
      at12,
      [{ type: 'setFormat', rate: { num: 24, den: 1 } }],
      [{ type: 'setLength', ...sock, atFrame: 19, frames: 3, following: 'push' }],
    );
    expect(mine).toEqual([
      {
        kind: 'conflict',
        reason: 'The film went from 12 to 24 frames a second meanwhile. 3 frames were 0.25 s then and are 0.125 s now.',
      },
    ]);
  });

  it('a shot that was removed is a conflict for anything in it', () => {
    const { mine } = rebase(base, [{ type: 'removeShot', shotId: 'shot-010' }], [drawOnFive('e'), lengthFourForFive]);
    expect(mine.map((each) => each.kind)).toEqual(['conflict', 'conflict']);
  });
});

type Case = readonly [what: string, theirs: Step, mine: Step, column: string];

describe('exposures find their frames again', () => {
  it.each<Case>([
    [
      'after an exposure in front became longer',
      { type: 'setLength', ...sock, atFrame: 10, frames: 12, following: 'push' },
      lengthFourForFive,
      '1*10 3*12 5*4 6*2',
    ],
    [
      'after an exposure in front became shorter',
      { type: 'setLength', ...sock, atFrame: 0, frames: 1, following: 'push' },
      lengthFourForFive,
      '1 3*9 5*4 6*2',
    ],
    ['after one in front was removed', { type: 'removeExposure', ...sock, atFrame: 12 }, lengthFourForFive, '1*10 5*4 6*2'],
    [
      'when the other only covered frames in front',
      { type: 'blank', ...sock, startFrame: 2, frames: 4 },
      lengthFourForFive,
      '1*2 .*4 1*4 3*9 5*4 6*2',
    ],
    ['when it was removed: a conflict', { type: 'removeExposure', ...sock, atFrame: 19 }, lengthFourForFive, '1*10 3*9 6*2'],
    [
      'when it got another length: a conflict',
      { type: 'setLength', ...sock, atFrame: 19, frames: 7, following: 'push' },
      lengthFourForFive,
      '1*10 3*9 5*7 6*2',
    ],
    [
      'when another drawing is there: a conflict',
      { type: 'expose', ...sock, drawingId: 'Sock-1', startFrame: 19, frames: 2 },
      lengthFourForFive,
      '1*10 3*9 1*2 6*2',
    ],
    ['when the other made the very same', lengthFourForFive, lengthFourForFive, '1*10 3*9 5*4 6*2'],
    [
      'an insertion behind their insertion',
      insertThreeAtTop,
      { type: 'replaceRuns', ...sock, startFrame: 10, removedFrames: 0, runs: [{ drawing: 'Sock-6', frames: 2 }] },
      '.*3 1*10 6*2 3*9 5*2 6*2',
    ],
    [
      'what is exposed past the end',
      insertThreeAtTop,
      { type: 'expose', ...sock, drawingId: 'Sock-1', startFrame: 25, frames: 3 },
      '.*3 1*10 3*9 5*2 6*2 .*2 1*3',
    ],
  ])('%s', (_what, theirs, mine, column) => expect(columnIn(rebase(base, [theirs], [mine]).project, 'Sock')).toBe(column));

  it('and what was made with frames of one’s own is found among them', () => {
    const insertTwo: Step = { type: 'replaceRuns', ...sock, startFrame: 10, removedFrames: 0, runs: [{ drawing: 'Sock-6', frames: 2 }] };
    const lengthOfThem: Step = { type: 'setLength', ...sock, atFrame: 11, frames: 5, following: 'push' };
    const { project, mine } = rebase(base, [insertThreeAtTop], [insertTwo, lengthOfThem, { ...lengthFourForFive, atFrame: 24 }]);
    expect(mine.map((each) => each.kind)).toEqual(['made', 'made', 'made']);
    expect(columnIn(project, 'Sock')).toBe('.*3 1*10 6*5 3*9 5*4 6*2');
  });
});

const note = (frame: number, words: string): SheetNote => ({ frame, kind: 'note', words });

describe('a step that would change nothing any more', () => {
  it('is a conflict when the exposure there has its length by chance, and another drawing', () => {
    // The other covers drawing 6 with 5, which is then held for as long as 6 was to be.
    const covered: Step = { type: 'setLength', ...sock, atFrame: 19, frames: 5, following: 'overwrite' };
    const wanted: Step = { type: 'setLength', ...sock, atFrame: 21, frames: 5, following: 'push' };
    expect(rebase(base, [covered], [wanted]).mine.map((each) => each.kind)).toEqual(['conflict']);
  });
});

describe('lists that both added to', () => {
  it('keep the notes of both, where they now belong', () => {
    const wide = mustBeDone(applyStep(base, { type: 'setNotes', shotId: 'shot-010', notes: [note(5, 'lets go')] }));
    const theirs: Step = {
      type: 'together',
      words: 'Insert 3 frames',
      steps: [insertThreeAtTop, { type: 'setNotes', shotId: 'shot-010', notes: [note(8, 'lets go')] }],
    };
    const { project, mine } = rebase(
      wide,
      [theirs],
      [{ type: 'setNotes', shotId: 'shot-010', notes: [note(5, 'lets go'), note(20, 'lands')] }],
    );
    expect(mine[0]?.kind).toBe('made');
    expect(project.shots[0]?.notes).toEqual([note(8, 'lets go'), note(23, 'lands')]);
  });

  it('tell when both wrote the same note', () => {
    const write = (words: string): Step => ({ type: 'setNotes', shotId: 'shot-010', notes: [note(5, words)] });
    expect(rebase(base, [write('a')], [write('b')]).mine).toEqual([
      { kind: 'conflict', reason: 'A note on the same frame was written meanwhile.' },
    ]);
  });

  it('give a new drawing another number when its own was taken', () => {
    const add = (id: string): Step => ({
      type: 'addDrawing',
      ...sock,
      drawing: { id, number: '7', role: 'key', picture: null },
      index: 4,
    });
    const { project } = rebase(base, [add('theirs')], [add('mine')]);
    expect(project.shots[0]?.levels[1]?.drawings.map((drawing) => drawing.number)).toEqual(['1', '3', '5', '6', '7a', '7']);
  });

  it('put new shots after the one they were put after, with a code of their own', () => {
    const add = (id: string) => addShotOf({ ...shotOf([levelOf('X', '1', { id: `X ${id}` })], 4, '030'), id }, 2);
    const first: Step = { type: 'moveItem', itemId: 'shot-020', index: 0 };
    const { project } = rebase(base, [first, add('theirs')], [add('mine')]);
    expect(placedShots(project).map(({ shot }) => [shot.id, shot.code])).toEqual([
      ['shot-020', '020'],
      ['mine', '030a'],
      ['shot-010', '010'],
      ['theirs', '030'],
    ]);
  });
});

describe('what was to be moved past what is gone', () => {
  const toSecond: Step = { type: 'moveItem', itemId: 'shot-010', index: 1 };
  const withoutSecond: Step = { type: 'removeItems', itemIds: ['shot-020'] };

  it('is set aside and not forgotten: it may come back', () => {
    const { project, mine } = rebase(base, [withoutSecond], [toSecond]);
    expect(placedShots(project).map(({ shot }) => shot.id)).toEqual(['shot-010']);
    expect(mine).toEqual([
      {
        kind: 'conflict',
        reason: 'What was to be moved on the reel stays where it is: what it was to be moved past was taken out meanwhile.',
      },
    ]);
  });

  it('is moved when it came back by then', () => {
    const { project, mine } = rebase(base, [withoutSecond, invertStep(base, withoutSecond)], [toSecond]);
    expect(placedShots(project).map(({ shot }) => shot.id)).toEqual(['shot-020', 'shot-010']);
    expect(mine).toEqual([{ kind: 'made', step: toSecond }]);
  });
});

describe('values that both changed', () => {
  it.each<readonly [string, Step, Step]>([
    ['a title', { type: 'renameProject', title: 'A' }, { type: 'renameProject', title: 'B' }],
    ['a name', { type: 'describeLevel', ...sock, change: { name: 'A' } }, { type: 'describeLevel', ...sock, change: { name: 'B' } }],
    ['a shot’s note', { type: 'describeShot', shotId: 'shot-010', note: 'A' }, { type: 'describeShot', shotId: 'shot-010', note: 'B' }],
    ['a length', { type: 'setShotLength', shotId: 'shot-010', frames: 50 }, { type: 'setShotLength', shotId: 'shot-010', frames: 60 }],
    [
      'a role',
      { type: 'describeDrawing', ...sock, drawingId: 'Sock-1', role: 'key' },
      { type: 'describeDrawing', ...sock, drawingId: 'Sock-1', role: 'breakdown' },
    ],
    ['a level that was drawn on and is removed', drawOnFive('e'), { type: 'removeLevel', ...sock }],
    ['a shot that was drawn on and is removed', drawOnFive('e'), { type: 'removeShot', shotId: 'shot-010' }],
    ['a drawing that was drawn on and is deleted', drawOnFive('e'), { type: 'deleteDrawing', ...sock, drawingId: 'Sock-5' }],
    ['a level both moved', { type: 'moveLevel', ...sock, index: 0 }, { type: 'moveLevel', ...sock, index: 0 }],
  ])('%s: a conflict, or the same', (_what, theirs, mine) => {
    const result = rebase(base, [theirs], [mine]);
    expect(result.project).toEqual(mustBeDone(applyStep(base, theirs)));
  });

  it('properties beside each other are both kept', () => {
    const { project } = rebase(
      base,
      [{ type: 'describeShot', shotId: 'shot-010', name: 'Drop' }],
      [{ type: 'describeShot', shotId: 'shot-010', note: 'windy' }],
    );
    expect(project.shots[0]).toMatchObject({ name: 'Drop', note: 'windy' });
  });

  it('a copy is of what was there when it was made', () => {
    const { project } = rebase(
      base,
      [drawOnFive('e')],
      [{ type: 'copyDrawing', ...sock, sourceId: 'Sock-5', copyId: 'copy', number: '9', index: 4 }],
    );
    expect(drawingIn(project, 'copy')?.picture).toBe(pictureOf('d'));
  });
});
