import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isOver } from '@/core/output/jobState';
import { startPictureOptions } from '@/core/output/pictures';
import {
  afterReload,
  askAgain,
  FOLDER_GONE,
  HELD,
  happenedTo,
  holdJob,
  moveJob,
  newJob,
  nextJob,
  type Queue,
  takeOut,
  waitingTwin,
} from '@/core/output/queue';
import { START_RECIPE } from '@/core/output/recipe';
import { record } from '@/core/testing/record';

const job = (id: string, projectId = 'p') => newJob(id, projectId, { ...START_RECIPE, fromText: id }, `${id}.mp4`);
const QUEUE: Queue = [job('a'), job('b'), job('c')];
const ids = (queue: Queue) => queue.map(({ id }) => id).join('');
const writing = { kind: 'writing', progress: { framesDone: 1, frames: 9, composited: 1 } } as const;

describe('a queue of handovers', () => {
  it('is made one after another, in order, whatever becomes of each', () => {
    let queue = QUEUE;
    const made: string[] = [];
    for (;;) {
      const next = nextJob(queue, 'p');
      if (!next) break;
      made.push(next.id);
      queue = happenedTo(queue, next.id, writing);
      expect(nextJob(queue, 'p')).toBeNull();
      queue = happenedTo(queue, next.id, next.id === 'b' ? { kind: 'failed', reason: 'no room' } : { kind: 'stopped' });
    }
    expect(made).toEqual(['a', 'b', 'c']);
    expect(queue.map(({ state }) => state.kind)).toEqual(['stopped', 'failed', 'stopped']);
  });

  it('makes only what is of the open project', () => expect(nextJob([job('x', 'other'), job('a')], 'p')?.id).toBe('a'));

  it('passes over what is held until it is let go', () => {
    const held = holdJob(QUEUE, 'a', HELD);
    expect(nextJob(held, 'p')?.id).toBe('b');
    expect(nextJob(holdJob(held, 'a', null), 'p')?.id).toBe('a');
    const begun = happenedTo(QUEUE, 'a', writing);
    expect(holdJob(begun, 'a', HELD)).toEqual(begun);
  });

  it.each([
    ['a', 1, 'bac'],
    ['c', -1, 'acb'],
    ['c', -9, 'cab'],
    ['a', -1, 'abc'],
    ['gone', 1, 'abc'],
  ])('moves %s by %i to %s', (id, by, order) => expect(ids(moveJob(QUEUE, id, by))).toBe(order));

  it('makes what was asked for twice once, while it waits', () => {
    expect(waitingTwin(QUEUE, { ...job('a'), id: 'twin' })?.id).toBe('a');
    expect(waitingTwin(QUEUE, job('d'))).toBeUndefined();
    expect(waitingTwin(happenedTo(QUEUE, 'a', writing), { ...job('a'), id: 'twin' })).toBeUndefined();
    expect(waitingTwin(QUEUE, { ...job('a', 'other'), id: 'twin' })).toBeUndefined();
  });

  it('takes out and asks again only for what isn’t being made', () => {
    const begun = happenedTo(QUEUE, 'a', writing);
    expect(ids(takeOut(begun, 'a'))).toBe('abc');
    expect(ids(takeOut(begun, 'b'))).toBe('ac');
    expect(askAgain(begun, 'a')).toBe(begun);
    const stopped = happenedTo(begun, 'a', { kind: 'stopped' });
    expect(ids(askAgain(stopped, 'a'))).toBe('bca');
    expect(nextJob(askAgain(stopped, 'a'), 'p')?.id).toBe('b');
  });

  it('begins anew after the page was left; what goes into a folder waits for one', () => {
    const folder = { ...job('f'), recipe: { ...START_RECIPE, options: { ...startPictureOptions('png'), within: 'folder' as const } } };
    const left = afterReload([...happenedTo(QUEUE, 'a', writing), folder]);
    expect(left.map(({ state, held, wasBegun }) => [state.kind, held, wasBegun])).toEqual([
      ['planned', null, true],
      ['planned', null, false],
      ['planned', null, false],
      ['planned', FOLDER_GONE, false],
    ]);
    // A second reload before its turn comes doesn't make it forget, asking for it again does.
    expect(afterReload(left)[0]?.wasBegun).toBe(true);
    const stopped = happenedTo(happenedTo(left, 'a', writing), 'a', { kind: 'stopped' });
    expect(askAgain(stopped, 'a').at(-1)?.wasBegun).toBe(false);
  });

  it('never loses a job by moving, holding, events or a reload', () => {
    const act = fc.oneof(
      record({ id: fc.constantFrom('a', 'b', 'c', 'z'), by: fc.integer({ min: -3, max: 3 }) }).map(
        ({ id, by }) =>
          (queue: Queue) =>
            moveJob(queue, id, by),
      ),
      fc.constantFrom('a', 'b', 'c').map((id) => (queue: Queue) => holdJob(queue, id, HELD)),
      fc.constantFrom('a', 'b', 'c').map((id) => (queue: Queue) => happenedTo(queue, id, writing)),
      fc.constantFrom('a', 'b', 'c').map((id) => (queue: Queue) => happenedTo(queue, id, { kind: 'failed', reason: 'why' })),
      fc.constantFrom('a', 'b', 'c').map((id) => (queue: Queue) => askAgain(queue, id)),
      fc.constant((queue: Queue) => afterReload(queue)),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 20 }), (acts) => {
        const queue = acts.reduce((now, each) => each(now), QUEUE);
        expect([...ids(queue)].sort().join('')).toBe('abc');
        expect(queue.filter(({ state }) => state.kind !== 'planned' && !isOver(state)).length).toBeLessThanOrEqual(3);
      }),
    );
  });
});
