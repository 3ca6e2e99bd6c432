import { describe, expect, it } from 'vitest';
import { type HistoryEntry, historyReader } from '@/contracts/local';
import { rebase } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { columnIn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';
import { historyRewrites, inOrder } from '@/features/sync/history';

const sock = { shotId: 'shot-010', levelId: 'Sock' };
const base = projectOf(shotOf([levelOf('Sock', '1*10 3*9 5*2 6*2', { pictures: 'abcd' })], 40));
const entry = (step: Step, order = 1): HistoryEntry => ({
  version: historyReader.version,
  order,
  projectId: 'project',
  windowId: 'w',
  stack: 'undo',
  step,
  words: '',
});

/** What can be undone after `mine`, once others have made `theirs`. */
function withTheirs(mine: readonly Step[], theirs: readonly Step[]) {
  let project = base;
  const undo = mine.map((step, order) => {
    const inverse = entry(invertStep(project, step), order);
    project = mustBeDone(applyStep(project, step));
    return inverse;
  });
  const result = rebase(base, theirs, mine);
  return { ...historyRewrites({ undo, redo: [] }, result.mapping), project: result.project };
}
const insertThree: Step = { type: 'replaceRuns', ...sock, startFrame: 0, removedFrames: 0, runs: [{ drawing: null, frames: 3 }] };
const draw = (letter: string): Step => ({ type: 'setPicture', ...sock, drawingId: 'Sock-5', picture: pictureOf(letter) });

describe('what can be undone, when others changed the document', () => {
  it('undoes the same exposure where it is now', () => {
    const { stacks, project, rewritten } = withTheirs(
      [{ type: 'setLength', ...sock, atFrame: 19, frames: 4, following: 'push' }],
      [insertThree],
    );
    expect(columnIn(project, 'Sock')).toBe('.*3 1*10 3*9 5*4 6*2');
    expect(rewritten).toHaveLength(1);
    const undone = mustBeDone(applyStep(project, stacks.undo[0]?.step as Step));
    expect(columnIn(undone, 'Sock')).toBe('.*3 1*10 3*9 5*2 6*2');
  });

  it('no longer undoes a picture another window has drawn over', () => {
    const { stacks, lost } = withTheirs([draw('e')], [draw('f')]);
    expect(stacks.undo).toEqual([]);
    expect(lost).toEqual([0]);
  });

  it('keeps what has nothing to do with it', () => {
    const title: Step = { type: 'renameProject', title: 'Two' };
    const { stacks } = withTheirs([title, draw('e')], [insertThree]);
    expect(stacks.undo.map((each) => each.step.type)).toEqual(['renameProject', 'setPicture']);
  });

  it('puts a change where it belongs whose picture took its time', () => {
    const [first, third] = [entry(draw('e'), 10), entry(draw('f'), 30)];
    expect(inOrder([first, third], entry(draw('0'), 20)).map((each) => each.order)).toEqual([10, 20, 30]);
    expect(inOrder([], entry(draw('0'), 20)).map((each) => each.order)).toEqual([20]);
  });
});
