import { describe, expect, it } from 'vitest';
import type { Level } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { runAt } from '@/core/sheet/runs';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { type ExposureDrag, readBlockDrag, readDrag } from '@/features/sheet/drag';

/** A drag of the exposure at `grabFrame` to `atFrame` on a sheet of 20 frames. */
function dragged(
  notation: string,
  kind: ExposureDrag['kind'],
  grabFrame: number,
  atFrame: number,
  following: 'push' | 'overwrite' = 'push',
) {
  const level: Level = levelOf('Sock', notation);
  const shot = shotOf([level], 20);
  const run = runAt(level.exposures, grabFrame);
  if (!run) throw new Error('There is nothing to drag.');
  const result = readDrag({ kind, levelId: level.id, run, grabFrame, atFrame }, shot, level, following, 1);
  const after = result.step ? columnIn(mustBeDone(applyStep(projectOf(shot), result.step)), 'Sock') : notation;
  return { ...result, after };
}

describe('a drag of an exposure’s end', () => {
  it.each([
    ['1*2 2*2', 1, 4, 'push', '1*5 2*2', '1: 2 → 5 frames, what follows moves 3 frames down'],
    ['1*4 2*2', 3, 1, 'push', '1*2 2*2', '1: 4 → 2 frames, what follows moves 2 frames up'],
    ['1*2 2*2', 1, 2, 'overwrite', '1*3 2', '1: 2 → 3 frames, covering 1 frame of what follows'],
    ['1*4 2*2', 3, 1, 'overwrite', '1*2 .*2 2*2', '1: 4 → 2 frames, leaving 2 frames blank'],
    ['1*2 2*2', 3, 9, 'push', '1*2 2*8', '2: 2 → 8 frames'],
    ['1*2 2*2', 1, 1, 'push', '1*2 2*2', '1: 2 → 2 frames'],
    ['1*2 2*2', 3, 0, 'push', '1*2 2', '2: 2 → 1 frame'],
  ] as const)('of %s from %i to %i, %s, makes %s', (before, grab, at, following, after, words) => {
    expect(dragged(before, 'end', grab, at, following)).toMatchObject({ after, words });
  });

  it('makes no step when it comes back to where it began', () => expect(dragged('1*2 2*2', 'end', 1, 1).step).toBeNull());
});

describe('a drag of a whole exposure', () => {
  it.each([
    ['1*2 2*2', 0, 6, 'overwrite', '.*2 2*2 .*2 1*2', 'Move 1 to frames 7–8, over what is there'],
    ['1*2 2*2', 1, 7, 'overwrite', '.*2 2*2 .*2 1*2', 'Move 1 to frames 7–8, over what is there'],
    ['1*2 2*2 3*2', 4, 3, 'overwrite', '1*2 2 3*2', 'Move 3 to frames 4–5, over what is there'],
    ['1*2 2*2', 3, 0, 'overwrite', '2*2', 'Move 2 to frames 1–2, over what is there; 1 is no longer exposed'],
    ['1*2 2*2', 3, 0, 'push', '2*2 1*2', 'Move 2 to frames 1–2, pushing what is there down'],
  ] as const)('of %s from %i to %i, %s, makes %s', (before, grab, at, following, after, words) => {
    expect(dragged(before, 'move', grab, at, following)).toMatchObject({ after, words });
  });

  it('stays within the shot', () => {
    expect(dragged('1*2', 'move', 0, 500)).toMatchObject({ fromFrame: 19, toFrame: 20 });
    expect(dragged('1*2 2*2', 'move', 3, -50)).toMatchObject({ fromFrame: 0 });
  });

  it('makes no step where nothing moves', () => expect(dragged('1*2', 'move', 0, 0)).toMatchObject({ step: null, words: '1 stays' }));
});

describe('a drag of a chosen block', () => {
  const shot = shotOf([levelOf('Pegs', '5*2 6*2'), levelOf('Sock', '1*2 2*2 3*2')], 20);
  const block = { levelIds: ['Sock', 'Pegs'], fromFrame: 0, toFrame: 1 };
  const moved = (atFrame: number, following: 'push' | 'overwrite') => {
    const result = readBlockDrag({ kind: 'block', block, grabFrame: 1, atFrame }, shot, following, 1);
    const project = result.step ? mustBeDone(applyStep(projectOf(shot), result.step)) : projectOf(shot);
    return [columnIn(project, 'Sock'), columnIn(project, 'Pegs'), result.words];
  };

  it.each([
    [5, 'overwrite', ['.*2 2*2 1*2', '.*2 6*2 5*2', 'Move to frames 5–6, over what is there; Sock 3 is no longer exposed']],
    [3, 'push', ['2*2 1*2 3*2', '6*2 5*2', 'Move to frames 3–4, pushing what is there down']],
    [1, 'push', ['1*2 2*2 3*2', '5*2 6*2', 'The block stays']],
  ] as const)('to %i, %s', (atFrame, following, after) => expect(moved(atFrame, following)).toEqual(after));

  it('stays within the shot', () =>
    expect(readBlockDrag({ kind: 'block', block, grabFrame: 0, atFrame: 400 }, shot, 'push', 1).fromFrame).toBe(19));
});
