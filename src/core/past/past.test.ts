import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { compareProjects } from '@/core/past/comparing';
import { momentsOf, type PastChange } from '@/core/past/sittings';
import { takeOutAll, takeOutDrawing, takeOutLevel, takeOutShot } from '@/core/past/takeOut';
import { drawingShownAt } from '@/core/sheet/reading';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { anyStep, START } from '@/core/testing/steps';

/** A document after those of the steps that apply. */
const madeOn = (project: Project, steps: readonly Step[]): Project =>
  steps.reduce((state, step) => {
    const next = applyStep(state, step);
    return next.ok ? next.value : state;
  }, project);

/** The order of shots means nothing. */
const inOrder = (project: Project): Project => ({ ...project, shots: [...project.shots].sort((a, b) => (a.id < b.id ? -1 : 1)) });
const steps = fc.array(anyStep, { maxLength: 12 });

describe('going back to what was', () => {
  it('comes to the very same, whatever was done since, and is undone to the very same', () => {
    fc.assert(
      fc.property(steps, steps, (before, since) => {
        const then = madeOn(START, before);
        const now = madeOn(then, since);
        const back = takeOutAll(then, now, 'As it was');
        if (!back.ok) {
          expect(inOrder(now)).toEqual(inOrder(then));
          return;
        }
        expect(inOrder(mustBeDone(applyStep(now, back.value)))).toEqual(inOrder(then));
        expect(inOrder(madeOn(mustBeDone(applyStep(now, back.value)), [invertStep(now, back.value)]))).toEqual(inOrder(now));
      }),
      { numRuns: 300 },
    );
  });

  it('takes out a shot as it was, where it lies on the reel today', () => {
    fc.assert(
      fc.property(steps, (since) => {
        const now = madeOn(START, since);
        const step = takeOutShot(START, now, 'shot-010');
        const made = step.ok ? mustBeDone(applyStep(now, step.value)) : now;
        const [shot, was] = [made, START].map((project) => project.shots.find(({ id }) => id === 'shot-010'));
        expect({ ...shot, code: '' }).toEqual({ ...was, code: '' });
        if (now.shots.some(({ id }) => id === 'shot-010')) expect(made.reel.items).toEqual(now.reel.items);
      }),
      { numRuns: 200 },
    );
  });
});

const then = projectOf(
  shotOf([levelOf('Sock', '1*2 2*2 3*4', { pictures: 'abc' }), levelOf('Peg', '1*8', { pictures: 'd' })], 8),
  shotOf([], 10, '020'),
);
const redrawn: Step = { type: 'setPicture', shotId: 'shot-010', levelId: 'Sock', drawingId: 'Sock-2', picture: 'f'.repeat(64) };
const longer: Step = { type: 'setLength', shotId: 'shot-010', levelId: 'Sock', atFrame: 0, frames: 4, following: 'push' };
const pegGone: Step = { type: 'removeLevel', shotId: 'shot-010', levelId: 'Peg' };
const now = madeOn(then, [redrawn, longer, pegGone]);

describe('what is different', () => {
  it('is told by shot, level, frame and drawing', () => {
    const { shots, counts } = compareProjects(then, now);
    expect(shots.map(({ code, state }) => [code, state])).toEqual([
      ['010', 'changed'],
      ['020', 'same'],
    ]);
    const [sock, peg] = shots[0]?.levels ?? [];
    expect([sock?.state, peg?.state]).toEqual(['changed', 'gone']);
    // 1 1 2 2 3 3 3 3 became 1 1 1 1 2 2 3 3 3 3: by hand.
    expect(sock?.frames).toEqual([
      { fromFrame: 2, toFrame: 4, was: '2', is: '1' },
      { fromFrame: 4, toFrame: 6, was: '3', is: '2' },
      { fromFrame: 8, toFrame: 10, was: null, is: '3' },
    ]);
    expect(sock?.drawings.map(({ number, is: today }) => [number, today?.picture?.[0]])).toEqual([['2', 'f']]);
    expect(peg?.frames).toEqual([{ fromFrame: 0, toFrame: 8, was: '1', is: null }]);
    expect([counts.was, counts.is]).toEqual([
      { shots: 2, frames: 18, drawings: 4, drawn: 4 },
      { shots: 2, frames: 18, drawings: 3, drawn: 3 },
    ]);
  });

  it('is nothing between a document and itself', () =>
    fc.assert(
      fc.property(steps, (some) => {
        const project = madeOn(START, some);
        return compareProjects(project, project).shots.every(
          ({ state, levels }) => state === 'same' && levels.every(({ frames }) => frames.length === 0),
        );
      }),
    ));

  it('is on a frame exactly where another drawing is shown there', () => {
    fc.assert(
      fc.property(steps, (since) => {
        const today = madeOn(START, since);
        for (const { shots, levels } of compareProjects(START, today).shots)
          for (const { levelId, frames } of levels) {
            const [was, is] = [shots.was, shots.is].map((shot) => shot?.levels.find(({ id }) => id === levelId));
            for (let frame = 0; frame < 40; frame++) {
              // A still level shows its drawing whatever its column says.
              if (was?.kind === 'still' || is?.kind === 'still') continue;
              const ids = [was, is].map((level) => level && drawingShownAt(level, frame)?.id);
              const isTold = frames.some(({ fromFrame, toFrame }) => frame >= fromFrame && frame < toFrame);
              expect(isTold, `${levelId}, frame ${frame}`).toBe(ids[0] !== ids[1]);
            }
          }
      }),
      { numRuns: 200 },
    );
  });
});

describe('taking out', () => {
  it('brings back a drawing’s picture, and a drawing that is gone under a free number', () => {
    const step = mustBeDone(takeOutDrawing(then, now, 'shot-010', 'Sock', 'Sock-2'));
    expect(step).toMatchObject({ type: 'setPicture', picture: 'b'.repeat(64) });
    const gone = madeOn(now, [
      { type: 'deleteDrawing', shotId: 'shot-010', levelId: 'Sock', drawingId: 'Sock-3' },
      { type: 'describeDrawing', shotId: 'shot-010', levelId: 'Sock', drawingId: 'Sock-1', number: '3' },
    ]);
    expect(takeOutDrawing(then, gone, 'shot-010', 'Sock', 'Sock-3')).toMatchObject({
      ok: true,
      value: { type: 'addDrawing', drawing: { id: 'Sock-3', number: '4' } },
    });
    expect(takeOutDrawing(then, now, 'shot-010', 'Sock', 'Sock-1').ok).toBe(false);
    expect(takeOutDrawing(then, now, 'shot-010', 'Peg', 'Peg-1')).toMatchObject({
      ok: false,
      reason: expect.stringContaining('level is gone'),
    });
  });

  it('brings back a level in its place, and one that is gone', () => {
    const back = madeOn(now, [
      mustBeDone(takeOutLevel(then, now, 'shot-010', 'Sock')),
      mustBeDone(takeOutLevel(then, now, 'shot-010', 'Peg')),
    ]);
    expect(columnIn(back, 'Sock')).toBe('1*2 2*2 3*4');
    expect(back.shots[0]?.levels.map(({ name }) => name)).toEqual(['Sock', 'Peg']);
  });

  it('gives a shot that comes back beside one of its code another', () => {
    const without = madeOn(now, [
      { type: 'removeShot', shotId: 'shot-020' },
      { type: 'describeShot', shotId: 'shot-010', code: '020' },
    ]);
    expect(takeOutShot(then, without, 'shot-020')).toMatchObject({ ok: true, value: { shot: { code: '020a' } } });
  });
});

describe('moments', () => {
  const change = (revision: number, seconds: number, windowId = 'a', shotId: string | null = '010'): PastChange => ({
    revision,
    at: seconds * 1000,
    windowId,
    who: windowId,
    words: `Change ${revision}`,
    shotId,
  });

  it('gather what one window did to one shot without a pause', () => {
    const moments = momentsOf([
      change(1, 0),
      change(2, 60),
      change(3, 240),
      change(4, 500),
      change(5, 510, 'b'),
      change(6, 520, 'b', '020'),
    ]);
    expect(moments.map(({ fromRevision, revision }) => [fromRevision, revision])).toEqual([
      [1, 3],
      [4, 4],
      [5, 5],
      [6, 6],
    ]);
    expect(moments[0]?.words).toBe('Change 1, Change 2, Change 3');
  });

  it('hold each change once, in order', () =>
    fc.assert(
      fc.property(fc.array(fc.record({ pause: fc.integer({ min: 0, max: 400 }), windowId: fc.constantFrom('a', 'b') })), (list) => {
        let seconds = 0;
        const changes = list.map(({ pause, windowId }, index) => {
          seconds += pause;
          return change(index + 1, seconds, windowId);
        });
        return momentsOf(changes)
          .flatMap((moment) => moment.changes)
          .every((each, index) => each === changes[index]);
      }),
    ));
});
