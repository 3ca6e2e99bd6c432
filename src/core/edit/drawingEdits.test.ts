import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import {
  copyDrawingHere,
  copyPreviousHere,
  deleteDrawing,
  joinNext,
  moveExposure,
  newDrawingHere,
  ownCopyHere,
} from '@/core/edit/drawingEdits';
import { picturesNamedBy } from '@/core/edit/picturesOfStep';
import type { Step } from '@/core/edit/step';
import { applyStep, STEP_TYPES } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import { mustBeDone } from '@/core/outcome';
import { addShotOf, columnAfter, columnIn, contextOn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const made = (shot: Shot, step: Step) => mustBeDone(applyStep(projectOf(shot), step));
const sockIn = (shot: Shot) =>
  mustBeDone(shot.levels[0] ? { ok: true as const, value: shot.levels[0] } : { ok: false as const, reason: 'no level' });

describe('a new drawing here', () => {
  it.each([
    ['', 24, 0, '1*2', 'New drawing 1 on frames 1–2'],
    ['1*3', 24, 3, '1*3 2*3', 'New drawing 2 on frames 4–6'],
    ['1*2 .*1 2*2', 24, 2, '1*2 3 2*2', 'New drawing 3 on frame 3'],
    ['1*4 2*4', 24, 2, '1*2 3*2 2*4', 'New drawing 3 on frames 3–4'],
    ['1*4 2*4', 24, 0, '1*4 3*4 2*4', 'New drawing 3 on frames 5–8, pushing what follows by 4'],
    ['1*2', 24, 0, '1*2 2*2', 'New drawing 2 on frames 3–4'],
    ['1*2 .*3 2', 24, 0, '1*2 3*2 . 2', 'New drawing 3 on frames 3–4'],
    ['1*2', 4, 3, '1*2 . 2', 'New drawing 2 on frame 4'],
    ['1*3', 4, 0, '1*3 2', 'New drawing 2 on frame 4'],
  ])('on %s (shot of %i) at frame %i makes %s', (before, shotFrames, frame, after, says) => {
    const shot = shotOf([levelOf('Sock', before)], shotFrames);
    const edit = mustBeDone(newDrawingHere(contextOn(shot), sockIn(shot), frame));
    expect(columnIn(made(shot, edit.step), 'Sock')).toBe(after);
    expect(edit.says).toBe(says);
  });

  it('says when there is no room', () => {
    const shot = shotOf([levelOf('Sock', '1*4')], 4);
    const edit = newDrawingHere(contextOn(shot), sockIn(shot), 0);
    expect(edit.ok ? '' : edit.reason).toContain('no room after frame 4');
  });

  it('gives a still level one drawing, and no second', () => {
    const empty = shotOf([{ ...levelOf('Yard', '', { kind: 'still' }) }], 10);
    const edit = mustBeDone(newDrawingHere(contextOn(empty), sockIn(empty), 3));
    const after = made(empty, edit.step);
    expect(after.shots[0]?.levels[0]?.drawings).toHaveLength(1);
    const full = after.shots[0] as Shot;
    expect(newDrawingHere(contextOn(full), sockIn(full), 3).ok).toBe(false);
  });
});

describe('a copy of any drawing, and an own copy', () => {
  const shot = shotOf([levelOf('Sock', '1*2 2*2 1*3', { pictures: 'ab' })], 12);
  const sock = sockIn(shot);
  const [first] = sock.drawings;

  it('is placed as a new drawing is, with the picture of its source', () => {
    if (!first) throw new Error('There is not a drawing.');
    const edit = mustBeDone(copyDrawingHere(contextOn(shot), sock, first, 2));
    expect(edit.says).toBe('Copy 1 as drawing 3 on frames 5–6, pushing what follows by 2');
    const after = made(shot, edit.step);
    expect(columnIn(after, 'Sock')).toBe('1*2 2*2 3*2 1*3');
    expect(after.shots[0]?.levels[0]?.drawings.find((drawing) => drawing.number === '3')?.picture).toBe(pictureOf('a'));
  });

  it.each([
    [5, '1*2 2*2 3*3'],
    [0, '3*2 2*2 1*3'],
    [2, '(Drawing 2 is exposed in this one place only: it is independent already.)'],
    [9, '(Sock shows no drawing on frame 10.)'],
  ])('at frame %i the exposure alone gets its own copy: %s', (frame, after) => {
    expect(columnAfter(shot, ownCopyHere(contextOn(shot), sock, frame))).toBe(after);
  });
});

describe('an exposure joined with the next', () => {
  const shot = shotOf([levelOf('Sock', '1*2 2*3 .*2 1*2')], 12);
  const sock = sockIn(shot);
  it.each([
    [0, '1*5 .*2 1*2', 'Join 1 with 2: 1 is held for 5 frames; 2 is no longer exposed'],
    [3, '1*2 2*5 1*2', 'Join 2 with the blank after it: 2 is held for 5 frames'],
  ])('at frame %i: %s', (frame, after, says) => {
    expect(columnAfter(shot, joinNext(contextOn(shot), sock, frame))).toBe(after);
    expect(mustBeDone(joinNext(contextOn(shot), sock, frame)).says).toBe(says);
  });

  it('needs a drawing, and something after it', () => {
    expect(columnAfter(shot, joinNext(contextOn(shot), sock, 5))).toContain('shows no drawing on frame 6');
    expect(columnAfter(shot, joinNext(contextOn(shot), sock, 8))).toContain('Nothing follows drawing 1');
  });
});

describe('a copy here', () => {
  it('is independent: same picture, own number, exposed as a new drawing would be', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*2', { pictures: 'ab' })], 24);
    const edit = mustBeDone(copyPreviousHere(contextOn(shot), sockIn(shot), 4));
    const after = made(shot, edit.step);
    expect(columnIn(after, 'Sock')).toBe('1*2 2*2 3*2');
    expect(after.shots[0]?.levels[0]?.drawings.at(-1)).toEqual({ id: 'new0', number: '3', role: 'inbetween', picture: pictureOf('b') });
    expect(edit.says).toBe('Copy 2 as drawing 3 on frames 5–6');
  });

  it('takes the drawing before where it is blank, and says when there is none', () => {
    const shot = shotOf([levelOf('Sock', '.*2 1*2', { pictures: 'a' })], 24);
    expect(mustBeDone(copyPreviousHere(contextOn(shot), sockIn(shot), 8)).says).toContain('Copy 1');
    const none = copyPreviousHere(contextOn(shot), sockIn(shot), 0);
    expect(none.ok ? '' : none.reason).toContain('no drawing on or before frame 1');
  });
});

describe('moving an exposure', () => {
  it.each([
    ['1*2 2*2', 0, 6, 'overwrite', '.*2 2*2 .*2 1*2', 'Move 1 to frames 7–8, over what is there'],
    ['1*2 2*2 3*2', 2, 4, 'overwrite', '1*2 .*2 2*2', 'Move 2 to frames 5–6, over what is there; 3 is no longer exposed'],
    ['1*2 2*2 3*2', 4, 3, 'overwrite', '1*2 2 3*2', 'Move 3 to frames 4–5, over what is there'],
    ['1*4 2', 0, 1, 'overwrite', '. 1*4', 'Move 1 to frames 2–5, over what is there; 2 is no longer exposed'],
    // Pushed, as a block is: what it leaves closes up, and what it lands before moves down.
    ['1*2 2*2 3*2', 0, 2, 'push', '2*2 1*2 3*2', 'Move 1 to frames 3–4, pushing what is there down'],
    ['1*2 2*2 3*2', 4, 0, 'push', '3*2 1*2 2*2', 'Move 3 to frames 1–2, pushing what is there down'],
  ] as const)('on %s from %i to %i, %s, gives %s', (before, from, to, following, after, says) => {
    const moving = shotOf([levelOf('Sock', before)], 24);
    const edit = mustBeDone(moveExposure(contextOn(moving, following), sockIn(moving), from, to));
    expect(columnIn(made(moving, edit.step), 'Sock')).toBe(after);
    expect(edit.says).toBe(says);
  });

  it('says when there is nothing to move', () => {
    const moving = shotOf([levelOf('Sock', '1*2')], 24);
    expect(moveExposure(contextOn(moving), sockIn(moving), 9, 1).ok).toBe(false);
  });
});

describe('deleting a drawing', () => {
  it('names what goes, and leaves its frames blank', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*2 1*2')], 24);
    const level = sockIn(shot);
    const edit = deleteDrawing(shot, level, level.drawings[0] as (typeof level.drawings)[number]);
    expect(edit.says).toBe('Delete drawing 1 and its 2 exposures');
    expect(columnIn(made(shot, edit.step), 'Sock')).toBe('.*2 2*2');
  });
});

describe('words and pictures of steps', () => {
  const level = levelOf('Sock', '1*2 2*2', { pictures: 'ab' });
  const at = { shotId: 's', levelId: 'Sock', drawingId: 'Sock-1' };

  it('names every picture a step brings in', () => {
    expect(picturesNamedBy({ type: 'setPicture', ...at, picture: pictureOf('c') })).toEqual([pictureOf('c')]);
    expect(picturesNamedBy({ type: 'setPicture', ...at, picture: null })).toEqual([]);
    expect(picturesNamedBy({ type: 'addLevel', shotId: 's', level, index: 0 })).toEqual([pictureOf('a'), pictureOf('b')]);
    expect(picturesNamedBy(addShotOf(shotOf([level]), 0))).toEqual([pictureOf('a'), pictureOf('b')]);
    const nested: Step = {
      type: 'together',
      words: '',
      steps: [
        {
          type: 'addDrawing',
          shotId: 's',
          levelId: 'l',
          index: 0,
          drawing: { id: 'd', number: '1', role: 'key', picture: pictureOf('d') },
        },
      ],
    };
    expect(picturesNamedBy(nested)).toEqual([pictureOf('d')]);
    expect(picturesNamedBy({ type: 'removeLevel', shotId: 's', levelId: 'l' })).toEqual([]);
  });

  it('has words for every kind', () => {
    expect(STEP_TYPES).toHaveLength(40);
    expect(stepWords({ type: 'setPicture', ...at, picture: pictureOf('c') })).toBe('Draw');
    expect(stepWords({ type: 'setPicture', ...at, picture: null })).toBe('Clear drawing');
    expect(stepWords({ type: 'setShotLength', shotId: 's', frames: 96 })).toBe('Shot length 96 frames');
    expect(stepWords({ type: 'together', words: 'Several', steps: [] })).toBe('Several');
  });
});
