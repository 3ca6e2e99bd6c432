import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { type WaitingStep, waitingReader } from '@/contracts/local';
import draft from '@/contracts/samples/draft.v1.json';
import history from '@/contracts/samples/history.v1.json';
import waiting from '@/contracts/samples/waiting.v1.json';
import { pictureOf } from '@/core/testing/sheets';
import { asideOf } from '@/features/sync/asideOf';
import {
  dropAside,
  dropDraft,
  loadAside,
  loadChains,
  loadDrafts,
  loadHistoryEntries,
  loadWaiting,
  localOutbox,
  localPictures,
  putDraft,
  putPicture,
  writeAside,
} from '@/features/sync/outbox';
import { holdPicture, localStore } from '@/workers/client';

const PNG = new Uint8Array([137, 80, 78, 71]);

/** A browser's store as the version before left it. */
beforeAll(async () => {
  const old = await openDB('lime-tick', 2, {
    upgrade(database) {
      database.createObjectStore('waiting', { keyPath: 'order' }).createIndex('byProject', 'projectId');
      database.createObjectStore('pictures');
      database.createObjectStore('drafts', { keyPath: 'order' }).createIndex('byProject', 'projectId');
      database.createObjectStore('history', { keyPath: 'order' }).createIndex('byProject', 'projectId');
    },
  });
  for (const entry of waiting) await old.put('waiting', entry);
  await old.put('waiting', { order: 99, projectId: 'project', step: { type: 'explode' }, pictures: [pictureOf('d')], sending: null });
  await old.put('pictures', PNG, pictureOf('e'));
  await old.put('pictures', PNG, pictureOf('d'));
  await old.put('drafts', draft);
  for (const entry of history) await old.put('history', entry);
  old.close();
});

const chain = (baseRevision: number) => ({ version: 1, windowId: 'w', projectId: 'project', baseRevision });
const nothing = { dropped: [], put: [], draftsDropped: [], history: [], historyDropped: [], aside: [], chain: chain(1) };
const step = (order: number, pictures: readonly string[] = []): WaitingStep => ({
  version: waitingReader.version,
  order,
  projectId: 'project',
  windowId: 'w',
  id: `id${order}`,
  step: { type: 'renameProject', title: String(order) },
  pictures: [...pictures],
  sizeBytes: 10,
  sending: null,
});

describe('what the version before left in a browser', () => {
  it('is read: steps, strokes, what can be undone, pictures', async () => {
    expect((await loadWaiting('project')).map((entry) => entry.step)).toEqual(waiting.map((entry) => entry.step));
    expect(await loadDrafts('project')).toMatchObject([{ stroke: draft.stroke }]);
    expect((await loadHistoryEntries('project')).map((entry) => entry.step)).toEqual(history.map((entry) => entry.step));
    expect([...(await localPictures([pictureOf('e')])).keys()]).toEqual([pictureOf('e')]);
  });

  it('that can’t be read is set aside and named, once, and nothing of it is lost', async () => {
    await loadWaiting('project');
    const aside = await loadAside('project');
    expect(aside).toMatchObject([
      { kind: 'unreadable', order: 99, reason: expect.stringContaining('could not be read'), stored: { step: { type: 'explode' } } },
    ]);
    expect((await localPictures([pictureOf('d')])).size).toBe(1);
  });
});

describe('the browser’s own store', () => {
  it('writes steps with where they belong, and forgets pictures nothing names any more', async () => {
    await putPicture({ digest: pictureOf('a'), png: PNG });
    const [first, second] = [step(201, [pictureOf('a')]), step(202, [pictureOf('a')])];
    await localOutbox.rewrite({ ...nothing, put: [first, second], chain: chain(7) });
    expect((await loadChains('project')).find((each) => each.windowId === 'w')?.baseRevision).toBe(7);
    await localOutbox.rewrite({ ...nothing, dropped: [first], chain: chain(8) });
    expect((await localPictures([pictureOf('a')])).size).toBe(1);
    await localOutbox.rewrite({ ...nothing, dropped: [second], chain: chain(9) });
    expect((await localPictures([pictureOf('a')])).size).toBe(0);
  });

  it('keeps the picture of what is set aside until that is settled', async () => {
    await putPicture({ digest: pictureOf('b'), png: PNG });
    const entry = step(203, [pictureOf('b')]);
    await localOutbox.rewrite({ ...nothing, put: [entry] });
    const aside = asideOf(entry, 'refused', 'No.', null, new Date(0));
    await localOutbox.rewrite({ ...nothing, dropped: [entry], aside: [aside] });
    expect((await loadWaiting('project')).map((each) => each.order)).not.toContain(203);
    expect((await localPictures([pictureOf('b')])).size).toBe(1);
    expect(await loadAside('project')).toContainEqual(aside);
    await dropAside(aside);
    expect((await localPictures([pictureOf('b')])).size).toBe(0);
  });

  it('writes a picture that was only held with the step that names it', async () => {
    holdPicture(pictureOf('c'), PNG);
    await localOutbox.rewrite({ ...nothing, put: [step(204, [pictureOf('c')])] });
    expect(await (await localStore()).get('pictures', pictureOf('c'))).toEqual(PNG);
  });

  it('lets go of a stroke with the step it became, not before', async () => {
    const stroke = { version: 2, order: 205, projectId: 'other', windowId: 'w', target: draft.target, stroke: draft.stroke as never };
    await putDraft(stroke);
    expect(await loadDrafts('other')).toHaveLength(1);
    await localOutbox.rewrite({ ...nothing, put: [{ ...step(205), projectId: 'other' }], draftsDropped: [205] });
    expect(await loadDrafts('other')).toEqual([]);
  });
});

describe('a tab that dies', () => {
  const set = asideOf(step(30), 'conflict', 'It met another change.', null, new Date(0));
  it.each([
    ['a stroke', () => putDraft(draft as Parameters<typeof putDraft>[0])],
    ['a step', () => localOutbox.rewrite({ ...nothing, put: [step(31)] })],
    ['what is set aside', () => writeAside(set, 30)],
    ['a stroke that goes', () => dropDraft(32)],
    ['strokes that are read', () => loadDrafts('nobody')],
  ])('leaves nothing open that a stroke would wait behind: %s', async (_, write) => {
    const opened = vi.spyOn(IDBDatabase.prototype, 'transaction');
    const commits = vi.spyOn(IDBTransaction.prototype, 'commit');
    await write();
    const touched = opened.mock.results
      .map(({ value }) => value as IDBTransaction)
      .filter((each) => each.objectStoreNames.contains('drafts'));
    expect(touched).toHaveLength(1);
    expect(commits.mock.contexts).toContain(touched[0]);
    opened.mockRestore();
    commits.mockRestore();
  });
});
