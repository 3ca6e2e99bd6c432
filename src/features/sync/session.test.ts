import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Sending } from '@/contracts/project';
import type { Step } from '@/core/edit/step';
import { levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';
import { loadHistoryEntries, loadWaiting } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import { closeSession, make, openSession, redo, undo, untilKept } from '@/features/sync/session';
import { SimulatedServer } from '@/testing/simulation';
import { localStore } from '@/workers/client';

const told = vi.hoisted(() => ({ words: [] as string[] }));
vi.mock('@/ui/toast', () => {
  const say = (words: string) => told.words.push(words);
  return { toast: { message: say, error: say, warning: say } };
});

/* A session against a server of the tests' own, over the same addresses a browser asks. */

const sock = { shotId: 'shot-010', levelId: 'Sock' };
const film = (id: string) => ({ ...projectOf(shotOf([levelOf('Sock', '1*2 2*2 3*2', { pictures: 'abc' })], 24)), id });
const draw = (letter: string): Step => ({ type: 'setPicture', ...sock, drawingId: 'Sock-1', picture: pictureOf(letter) });
const title = (words: string): Step => ({ type: 'renameProject', title: words });

let server: SimulatedServer;
let projectId = '';
let count = 0;
let receiptTrouble: string[] = [];
const OWN = { 'lime-tick': '1', 'Content-Type': 'application/json' };

async function answer(url: string, options?: RequestInit): Promise<Response> {
  const address = new URL(url, 'http://127.0.0.1');
  const json = (body: object, status = 200) => new Response(JSON.stringify(body), { status, headers: OWN });
  if (!server.on) throw new TypeError('Failed to fetch');
  if (address.pathname.endsWith('/steps') && options?.method === 'POST') {
    const sending = JSON.parse(String((options.body as FormData).get('sending'))) as Sending;
    const said = await server.port.send(projectId, sending, new Map());
    if (said.kind === 'accepted') return json({ revision: said.revision });
    if (said.kind === 'stale') return json({ ...said, error: 'Others came between.' }, 409);
    return json({ error: 'sentence' in said ? said.sentence : '' }, said.kind === 'failed' ? 500 : 422);
  }
  if (address.pathname.endsWith('/steps'))
    return json(await server.port.changesSince(projectId, Number(address.searchParams.get('since'))));
  const at = address.searchParams.get('at');
  if (at !== null) return json({ project: server.documentAt(Number(at)), revision: Number(at) });
  return json({
    project: server.project,
    revision: server.revision,
    keptAt: '2026-11-01T10:00:00.000Z',
    receipts: [],
    unreadable: receiptTrouble,
  });
}

beforeEach(() => {
  projectId = `project-${count++}`;
  server = new SimulatedServer(film(projectId));
  told.words.length = 0;
  receiptTrouble = [];
  vi.stubGlobal('fetch', answer);
});
afterEach(() => {
  closeSession();
  vi.unstubAllGlobals();
});

const pictureNow = () => server.project.shots[0]?.levels[0]?.drawings[0]?.picture;

describe('a session', () => {
  it('shows the project that was opened last, however long another one takes', async () => {
    const slow = `${projectId}-slow`;
    let letSlowThrough: () => void = () => undefined;
    const slowAnswer = new Promise<void>((resolve) => {
      letSlowThrough = resolve;
    });
    vi.stubGlobal('fetch', async (url: string, options?: RequestInit) => {
      if (!url.includes(slow)) return answer(url, options);
      await slowAnswer;
      const said = { project: film(slow), revision: 0, keptAt: '2026-11-01T10:00:00.000Z', receipts: [], unreadable: ['Of the slow one.'] };
      return new Response(JSON.stringify(said), { status: 200, headers: OWN });
    });
    const first = openSession(slow);
    await openSession(projectId);
    expect(useProjectStore.getState().project?.id).toBe(projectId);
    letSlowThrough();
    await first;
    expect(useProjectStore.getState().project?.id).toBe(projectId);
    expect(told.words).toEqual([]);
    expect(make(title('Still here'))).toBe(true);
    expect(await untilKept()).toBe(true);
    expect(server.project.title).toBe('Still here');
  });

  it('opens a project, makes steps, undoes and redoes them, and all of it is saved', async () => {
    await openSession(projectId);
    expect(useProjectStore.getState().project?.id).toBe(projectId);
    expect(make(draw('d'))).toBe(true);
    expect(await untilKept()).toBe(true);
    expect(pictureNow()).toBe(pictureOf('d'));
    expect(undo()?.words).toBe('Draw');
    expect(await untilKept()).toBe(true);
    expect(pictureNow()).toBe(pictureOf('a'));
    redo();
    expect(await untilKept()).toBe(true);
    expect(pictureNow()).toBe(pictureOf('d'));
    expect(useProjectStore.getState()).toMatchObject({ kept: 'kept', waitingSteps: 0 });
  });

  it('refuses on the way in what no server would take, and goes on', async () => {
    await openSession(projectId);
    for (const step of [
      title('So\u0000ck'),
      title('half \ud83e'),
      { type: 'describeShot', shotId: 'shot-010', note: 'x'.repeat(4001) } as const,
    ])
      expect(make(step)).toBe(false);
    expect(told.words).toHaveLength(3);
    expect(make(title('Fine'))).toBe(true);
    expect(await untilKept()).toBe(true);
    expect(server.project.title).toBe('Fine');
  });

  it('names receipts that could not be read, and opens all the same', async () => {
    receiptTrouble = ['The receipt of 2026-10-01 10:00: A receipt could not be read.'];
    await openSession(projectId);
    expect(told.words).toEqual(receiptTrouble);
    expect(useProjectStore.getState().project).not.toBeNull();
  });

  it('undoes on the next visit what was done on the last one, where it lies by then', async () => {
    await openSession(projectId);
    make({ type: 'setLength', ...sock, atFrame: 4, frames: 5, following: 'push' });
    await untilKept();
    closeSession();
    // Another window inserts frames in front while nobody is here.
    await server.port.send(
      projectId,
      {
        baseRevision: 1,
        batchId: 'other',
        madeBy: null,
        steps: [{ type: 'replaceRuns', ...sock, startFrame: 0, removedFrames: 0, runs: [{ drawing: null, frames: 3 }] }],
        stepIds: ['other'],
      },
      new Map(),
    );
    // A page that is loaded anew is another window; here the entries are given to one that is gone.
    const store = await localStore();
    for (const entry of await loadHistoryEntries(projectId)) await store.put('history', { ...entry, windowId: 'gone' } as never);
    for (const chain of await store.getAll('chains')) await store.put('chains', { ...chain, windowId: 'gone' } as never);
    await openSession(projectId);
    undo();
    await untilKept();
    expect(server.project.shots[0]?.levels[0]?.exposures.map((run) => run.frames)).toEqual([3, 2, 2, 2]);
  });

  it('sends what a visit of the version before had on its way as it was, so that it is not made twice', async () => {
    const insert: Step = { type: 'replaceRuns', ...sock, startFrame: 0, removedFrames: 0, runs: [{ drawing: null, frames: 3 }] };
    const sending = { batchId: 'old-batch', baseRevision: 0 };
    await server.port.send(projectId, { ...sending, madeBy: null, steps: [insert], stepIds: [] }, new Map());
    const store = await localStore();
    await store.put('waiting', { order: 1, projectId, step: insert, pictures: [], sending } as never);
    await store.put('waiting', { order: 2, projectId, step: title('After'), pictures: [], sending: null } as never);
    await openSession(projectId);
    expect(await untilKept()).toBe(true);
    expect(server.journal.map((change) => change.step)).toEqual([insert, title('After')]);
    expect(await loadWaiting(projectId)).toEqual([]);
  });
});
