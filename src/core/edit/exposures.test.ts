import { describe, expect, it } from 'vitest';
import type { Step, StepOf } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const at = { shotId: 'shot-010', levelId: 'Sock' };

/** A project of one level of 20 frames, or as many as it takes. */
const withSock = (notation: string, extra: readonly string[] = []) => projectOf(shotOf([levelOf('Sock', notation, { extra })], 20));

/** The column after a step; and the step undone gives the very same document back. */
function after(notation: string, step: Step, extra: readonly string[] = []): string {
  const before = withSock(notation, extra);
  const result = mustBeDone(applyStep(before, step));
  expect(mustBeDone(applyStep(result, invertStep(before, step)))).toEqual(before);
  return columnIn(result, 'Sock');
}

describe('setLength (worked by hand)', () => {
  const length = (atFrame: number, frames: number, following: 'push' | 'overwrite'): StepOf<'setLength'> => ({
    type: 'setLength',
    ...at,
    atFrame,
    frames,
    following,
  });
  it.each([
    ['1*2 2*2 3*2', 2, 7, 'push', '1*2 2*7 3*2'],
    ['1*2 2*2 3*2', 2, 7, 'overwrite', '1*2 2*7'],
    ['1*2 2*2 3*2', 3, 3, 'overwrite', '1*2 2*3 3'],
    ['1*2 2*4 3*2', 2, 2, 'push', '1*2 2*2 3*2'],
    ['1*2 2*4 3*2', 2, 2, 'overwrite', '1*2 2*2 .*2 3*2'],
    ['1*2 2*2', 2, 5, 'overwrite', '1*2 2*5'],
    ['1*2 2*2', 2, 1, 'overwrite', '1*2 2'],
    ['1 2 3 4', 0, 2, 'push', '1*2 2 3 4'],
    ['1*2 .*2 2*2', 2, 1, 'push', '1*2 . 2*2'],
    ['1*2 2*2', 0, 2, 'push', '1*2 2*2'],
  ] as const)('%s at %i to %i, %s, is %s', (before, frame, frames, following, result) =>
    expect(after(before, length(frame, frames, following))).toBe(result),
  );

  it('gives the same document back when nothing changes', () => {
    const project = withSock('1*2 2*2');
    expect(mustBeDone(applyStep(project, length(0, 2, 'push')))).toBe(project);
  });

  it.each([
    [0, 0, 'A length of 0 frames'],
    [0, 1.5, 'A length of 1.5 frames'],
    [7, 2, 'no exposure on frame 8'],
    [0, 1_000_000, '1000000'],
  ])('refuses at %i a length of %d', (frame, frames, named) => {
    const project = withSock('1*2 2*2');
    const result = applyStep(project, length(frame, frames, 'push'));
    expect(result.ok ? '' : result.reason).toContain(named);
  });
});

describe('expose', () => {
  const expose = (number: string, startFrame: number, frames: number): StepOf<'expose'> => ({
    type: 'expose',
    ...at,
    drawingId: `Sock-${number}`,
    startFrame,
    frames,
  });
  it.each([
    ['1*2 2*2 3*2', '9', 2, 2, '1*2 9*2 3*2'],
    ['1*2 2*2 3*2', '9', 1, 1, '1 9 2*2 3*2'],
    ['1*2 2*2 3*2', '9', 3, 2, '1*2 2 9*2 3'],
    ['1*4', '9', 1, 2, '1 9*2 1'],
    ['1*2', '9', 5, 2, '1*2 .*3 9*2'],
    ['', '9', 0, 3, '9*3'],
    ['1*2 .*2 2', '1', 2, 2, '1*4 2'],
    ['1*2 2*2', '1', 2, 2, '1*4'],
  ])('on %s drawing %s at %i for %i is %s', (before, number, frame, frames, result) =>
    expect(after(before, expose(number, frame, frames), ['1', '9'])).toBe(result),
  );

  it.each([
    [-1, 1, 'Frame 0 is outside shot 010: it has frames 1 to 20.'],
    [20, 1, 'Frame 21 is outside shot 010: it has frames 1 to 20.'],
    [0, 0, 'A length of 0 frames'],
    [1.5, 1, 'outside shot'],
  ])('refuses frame %d for %i', (frame, frames, named) => {
    const result = applyStep(withSock('1', ['9']), expose('9', frame, frames));
    expect(result.ok ? '' : result.reason).toContain(named);
  });

  it('refuses a drawing, level or shot that is not there, and a still level', () => {
    const project = projectOf(shotOf([levelOf('Sock', '1*2'), levelOf('Yard', '1', { kind: 'still' })], 20));
    const reasons = [
      { ...expose('7', 0, 1) },
      { ...expose('1', 0, 1), levelId: 'Nowhere' },
      { ...expose('1', 0, 1), shotId: 'shot-999' },
      { ...expose('1', 0, 1), levelId: 'Yard', drawingId: 'Yard-1' },
    ].map((step) => {
      const result = applyStep(project, step);
      return result.ok ? '' : result.reason;
    });
    expect(reasons).toEqual([
      expect.stringContaining('no drawing Sock-7'),
      expect.stringContaining('no level Nowhere'),
      expect.stringContaining('no shot shot-999'),
      expect.stringContaining('still level'),
    ]);
  });
});

describe('blank, remove and replace', () => {
  it.each([
    ['1*2 2*2 3*2', { type: 'blank', ...at, startFrame: 2, frames: 2 }, '1*2 .*2 3*2'],
    ['1*2 2*4', { type: 'blank', ...at, startFrame: 3, frames: 1 }, '1*2 2 . 2*2'],
    ['1*2 2*2', { type: 'blank', ...at, startFrame: 2, frames: 9 }, '1*2'],
    ['1*2 2*2 3*2', { type: 'removeExposure', ...at, atFrame: 3 }, '1*2 3*2'],
    ['1*2 2*2 1*3', { type: 'removeExposure', ...at, atFrame: 2 }, '1*5'],
    ['1*2 .*3 2', { type: 'removeExposure', ...at, atFrame: 4 }, '1*2 2'],
    ['1*2 2*2 3*2', { type: 'replaceRuns', ...at, startFrame: 1, removedFrames: 2, runs: [] }, '1 2 3*2'],
    ['1*2 2*2', { type: 'replaceRuns', ...at, startFrame: 2, removedFrames: 0, runs: [{ drawing: null, frames: 3 }] }, '1*2 .*3 2*2'],
    ['1*2', { type: 'replaceRuns', ...at, startFrame: 5, removedFrames: 0, runs: [{ drawing: 'Sock-1', frames: 1 }] }, '1*2 .*3 1'],
  ] as const)('%s', (before, step, result) => expect(after(before, step)).toBe(result));

  it('refuses to remove what is not there, and runs of unknown drawings', () => {
    const nothing = applyStep(withSock('1*2'), { type: 'removeExposure', ...at, atFrame: 9 });
    expect(nothing.ok ? '' : nothing.reason).toContain('no exposure on frame 10');
    const unknown = applyStep(withSock('1*2'), {
      type: 'replaceRuns',
      ...at,
      startFrame: 0,
      removedFrames: 0,
      runs: [{ drawing: 'x', frames: 1 }],
    });
    expect(unknown.ok).toBe(false);
  });
});
