import { describe, expect, it } from 'vitest';
import type { Step } from '@/core/edit/step';
import { levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';
import { FAILED_TITLE, REFUSED_TITLE, settle, World } from '@/testing/simulation';

const sock = { shotId: 'shot-010', levelId: 'Sock' };
const start = projectOf(shotOf([levelOf('Sock', '1*2 2*2 3*2', { pictures: 'abc' })], 24));
const draw = (drawing: number, letter: string): Step => ({
  type: 'setPicture',
  ...sock,
  drawingId: `Sock-${drawing}`,
  picture: pictureOf(letter),
});
const title = (words: string): Step => ({ type: 'renameProject', title: words });

async function world(places = [0]) {
  const made = new World(start);
  for (const place of places) await made.open(place);
  return made;
}
const pictures = (made: World) => made.server.project.shots[0]?.levels[0]?.drawings.map((drawing) => drawing.picture?.[0]).join('');

describe('an engine', () => {
  it('sends what is made at once, and says what is saved only when it is', async () => {
    const made = await world();
    await made.make(0, draw(1, 'd'));
    expect(pictures(made)).toBe('dbc');
    expect(made.store.waiting.size).toBe(0);
  });

  it('sends together what is made until it is its turn', async () => {
    const made = await world();
    const { send } = made.server.port;
    const sendings: number[] = [];
    Object.assign(made.server.port, {
      send: (...sending: Parameters<typeof send>) => {
        sendings.push(sending[1].steps.length);
        return send(...sending);
      },
    });
    let begin = () => {};
    made.turn = () => new Promise((resolve) => (begin = resolve));
    for (const drawing of [1, 2, 3]) await made.make(0, draw(drawing, 'd'));
    expect(sendings).toEqual([]);
    expect(made.store.waiting.size).toBe(3);
    begin();
    await settle();
    expect(sendings).toEqual([3]);
    expect(pictures(made)).toBe('ddd');
  });

  it('waits for no turn with what found no room in the browser’s store', async () => {
    const made = await world();
    made.store.isFull = true;
    made.turn = () => new Promise(() => {});
    await made.make(0, draw(1, 'd'));
    expect(pictures(made)).toBe('dbc');
  });

  it('sets aside the one step that is refused, and its neighbours go through', async () => {
    const made = await world();
    made.server.on = false;
    for (let count = 0; count < 10; count++)
      await made.make(0, count === 4 ? title(REFUSED_TITLE) : draw((count % 3) + 1, 'def0'[count % 4] ?? 'd'));
    made.server.on = true;
    for (let round = 0; round < 4; round++) await made.wake(0);
    expect([...made.asideTold.values()].map((each) => [each.kind, each.reason])).toEqual([['refused', 'The server takes no such title.']]);
    expect(made.server.journal).toHaveLength(9);
    expect(made.faults()).toEqual([]);
  });

  it('sets aside a step the server fails at again and again, after a few tries', async () => {
    const made = await world();
    await made.make(0, title(FAILED_TITLE));
    await made.make(0, draw(1, 'd'));
    expect(made.asideTold.size).toBe(0);
    for (let round = 0; round < 6; round++) await made.wake(0);
    expect([...made.asideTold.values()].map((each) => each.kind)).toEqual(['failed']);
    expect(pictures(made)).toBe('dbc');
  });

  it('makes nothing twice when an answer was lost', async () => {
    const made = await world();
    made.server.losesAnswers = true;
    await made.make(0, { type: 'replaceRuns', ...sock, startFrame: 0, removedFrames: 0, runs: [{ drawing: null, frames: 3 }] });
    made.server.losesAnswers = false;
    await made.wake(0);
    expect(made.server.revision).toBe(1);
    expect(made.faults()).toEqual([]);
  });

  it('waits at a server that knows less, and at one that doesn’t know the project, and loses nothing by it', async () => {
    const made = await world();
    const { port } = made.server;
    const { send } = port;
    for (const kind of ['ahead', 'unknown'] as const) {
      Object.assign(port, { send: async () => ({ kind, sentence: 'Another folder.' }) });
      await made.make(0, draw(kind === 'ahead' ? 1 : 2, 'd'));
      await made.wake(0);
      expect(made.asideTold.size).toBe(0);
    }
    expect(made.store.waiting.size).toBe(2);
    Object.assign(port, { send });
    await made.wake(0);
    expect(pictures(made)).toBe('ddc');
  });

  it('waits with one retry at a time when something unexpected is thrown, and goes on', async () => {
    const made = await world();
    const { port } = made.server;
    const { send } = port;
    let calls = 0;
    Object.assign(port, {
      send: async () => {
        calls++;
        throw new Error('not understood');
      },
    });
    await made.make(0, draw(1, 'd'));
    await settle();
    expect(calls).toBe(1);
    await made.wake(0);
    expect(calls).toBe(2);
    Object.assign(port, { send });
    await made.wake(0);
    expect(pictures(made)).toBe('dbc');
  });

  it('sends with a full store too, and says that once', async () => {
    const made = await world();
    made.store.isFull = true;
    for (const letter of 'def') await made.make(0, draw(1, letter));
    expect(pictures(made)).toBe('fbc');
    expect(made.store.waiting.size).toBe(0);
  });

  it('keeps both pictures when two windows drew on one drawing', async () => {
    const made = await world([0, 1]);
    made.server.on = false;
    await made.make(0, draw(1, 'd'));
    await made.make(1, draw(1, 'e'));
    made.server.on = true;
    for (const place of [0, 1, 0, 1]) await made.wake(place);
    expect(pictures(made)).toBe('dbc');
    expect([...made.asideTold.values()]).toMatchObject([{ kind: 'conflict', step: { picture: pictureOf('e') } }]);
  });

  it('keeps the shot that was removed with what was made in it', async () => {
    const made = await world([0, 1]);
    made.server.on = false;
    await made.make(0, { type: 'removeShot', shotId: 'shot-010' });
    await made.make(1, draw(1, 'e'));
    made.server.on = true;
    for (const place of [0, 1, 0, 1]) await made.wake(place);
    expect([...made.asideTold.values()]).toMatchObject([{ kind: 'conflict', shot: { id: 'shot-010' } }]);
  });
});
