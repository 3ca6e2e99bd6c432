import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newProject } from '@/core/document/newProject';
import { FIRST_PALETTE } from '@/core/document/palette';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { levelOf, shotOf } from '@/core/testing/sheets';
import { MIGRATIONS_FOLDER, openServer } from '@/server/db/client';
import type { Database, OpenDatabase } from '@/server/db/database';
import { openEmbedded } from '@/server/db/embedded';
import { moveDatabase, NotEmpty } from '@/server/db/move';
import { appendSteps, lockRevision, stepsSince } from '@/server/store/journal';
import { deleteProject, holdingsOf, namedMoments, nameMoment } from '@/server/store/keep';
import { loadDocument } from '@/server/store/loadDocument';
import { insertOriginal, loadOriginal, wholeFile } from '@/server/store/originals';
import { changesBetween, insertSnapshot, loadSittings, loadSnapshot } from '@/server/store/past';
import { giveBack, loadHands, notify, takeInHand } from '@/server/store/people';
import { insertPictures, loadPictures } from '@/server/store/pictures';
import { insertDocument, saveDocument } from '@/server/store/saveDocument';
import { sweepStore } from '@/server/store/sweep';
import { postgresPrograms, startPostgres } from '@/testing/postgres';
import { bytesOf } from '@/testing/server';

/*
 * The store on the embedded database and on a PostgreSQL server of Debian's: the same statements, the same answers. Without
 * PostgreSQL's programs the second half is passed over; npm test installs them where it may.
 */

const programs = postgresPrograms();

let stopPostgres: () => void = () => undefined;
let serverUrl: string | null = null;
const open = new Map<string, OpenDatabase>();
const newFolder = () => mkdtempSync(path.join(tmpdir(), 'lime-tick-test-'));

beforeAll(async () => {
  open.set('embedded', await openEmbedded(newFolder(), MIGRATIONS_FOLDER));
  if (programs === null) return;
  const { url, stop } = await startPostgres(programs);
  [serverUrl, stopPostgres] = [url, stop];
  open.set('server', await openServer(url));
});
afterAll(async () => {
  for (const each of open.values()) await each.close();
  stopPostgres();
});

const SIZE = { width: 64, height: 36 };
const PICTURE = { digest: 'ab'.repeat(32), size: SIZE, png: new Uint8Array([137, 80, 78, 71, 0, 255]) };
const project = {
  ...newProject({
    id: 'both',
    title: 'Both “engines” ⟋',
    rate: { num: 24_000, den: 1001 },
    size: SIZE,
    firstFrameNumber: 1001,
    palette: FIRST_PALETTE,
    shots: [shotOf([levelOf('Sock', '1*2 2*2 .*3 3')], 12)],
  }),
};
const STEP: Step = { type: 'setLength', shotId: 'shot-010', levelId: 'Sock', atFrame: 0, frames: 5, following: 'push' };

async function* noted(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield* wholeFile(bytes);
}

const ENGINES = ['embedded', ...(programs === null ? [] : ['server'])];

describe.each(ENGINES)('the store on the %s database', (engine) => {
  const database = (): Database => open.get(engine)?.database as Database;

  it('keeps a document, its steps, its pictures and files, and gives them back the same', async () => {
    await insertPictures(database(), [PICTURE]);
    await insertOriginal(database(), 'cd'.repeat(32), 2_500_000, noted(new Uint8Array(2_500_000).fill(7)));
    await database().transaction((tx) => insertDocument(tx, project));
    expect(await loadDocument(database(), project.id)).toEqual({ project, revision: 0 });
    const after = mustBeDone(applyStep(project, STEP));
    await database().transaction(async (tx) => {
      expect(await lockRevision(tx, project.id)).toBe(0);
      await saveDocument(tx, project, after);
      await appendSteps(tx, project.id, 0, { batchId: 'b', madeBy: { windowId: 'w', words: 'a window' } }, [
        { step: STEP, stepId: 's', inverse: invertStep(project, STEP) },
      ]);
    });
    expect(await loadDocument(database(), project.id)).toEqual({ project: after, revision: 1 });
    expect((await stepsSince(database(), project.id, 0)).map(({ step }) => step)).toEqual([STEP]);
    expect([...((await loadPictures(database(), [PICTURE.digest])).get(PICTURE.digest) ?? [])]).toEqual([...PICTURE.png]);
    const file = await loadOriginal(database(), 'cd'.repeat(32));
    expect((await bytesOf(file)).every((byte) => byte === 7)).toBe(true);
  });

  it('knows its past', async () => {
    expect(await loadSittings(database(), project.id, 10)).toMatchObject([{ fromRevision: 1, toRevision: 1, changes: 1 }]);
    expect(await changesBetween(database(), project.id, 1, 1, 10)).toMatchObject([{ revision: 1, step: STEP }]);
    await insertSnapshot(database(), project.id, 0, project);
    expect(await loadSnapshot(database(), project.id, 0)).toEqual(project);
    await nameMoment(database(), project.id, 1, 'first');
    expect(await namedMoments(database(), project.id)).toMatchObject([{ revision: 1, name: 'first' }]);
  });

  it('puts a shot into one hand at a time', async () => {
    const hand = (personId: string) => ({ shotId: 'shot-010', personId, name: personId, colour: '#2b6e72' });
    expect(await takeInHand(database(), project.id, hand('ada'), false)).toBe(true);
    expect(await takeInHand(database(), project.id, hand('ben'), false)).toBe(false);
    expect(await takeInHand(database(), project.id, hand('ben'), true)).toBe(true);
    await giveBack(database(), project.id, 'shot-010', 'ada');
    expect((await loadHands(database(), project.id)).map(({ personId }) => personId)).toEqual(['ben']);
  });

  it('tells who listens, once what it tells of is there', async () => {
    const heard: string[] = [];
    const leave = await open.get(engine)?.listen({ heard: (payload) => heard.push(payload), mayHaveMissed: () => undefined });
    await database()
      .transaction(async (tx) => {
        await notify(tx, 'never');
        throw new Error('taken back');
      })
      .catch(() => undefined);
    await notify(database(), 'at once');
    await expect.poll(() => heard, { timeout: 20_000 }).toEqual(['at once']);
    await leave?.();
  });
});

describe.skipIf(programs === null)('moving', () => {
  it('brings everything from a folder to a server and back, the same to the last letter', async () => {
    const [embedded, server] = [open.get('embedded')?.database, open.get('server')?.database];
    if (!embedded || !server || serverUrl === null) throw new Error('Both are open.');
    await expect(moveDatabase(embedded, server, () => undefined)).rejects.toBeInstanceOf(NotEmpty);
    await server.execute(sql`create database moved`);
    const moved = await openServer(serverUrl.replace(/postgres$/, 'moved'), 1);
    const there = await moveDatabase(embedded, moved.database, () => undefined);
    const back = await openEmbedded(newFolder(), MIGRATIONS_FOLDER);
    const again = await moveDatabase(moved.database, back.database, () => undefined);
    expect(again).toEqual(there);
    expect(there.find(({ table }) => table === 'journal')).toMatchObject({ rows: 1 });
    expect(await loadDocument(back.database, project.id)).toEqual(await loadDocument(embedded, project.id));
    expect(await bytesOf(await loadOriginal(back.database, 'cd'.repeat(32)))).toHaveLength(2_500_000);
    await back.close();
    await moved.close();
  }, 120_000);
});

describe.each(ENGINES)('a project of the %s database that is deleted', (engine) => {
  it('says what goes, and frees it', async () => {
    const database = open.get(engine)?.database as Database;
    expect(await holdingsOf(database, project.id)).toMatchObject({ shots: 1, changes: 1, moments: 1 });
    expect(await deleteProject(database, project.id)).toBe(true);
    expect(await loadDocument(database, project.id)).toBeNull();
    const freed = await sweepStore(database, new Date(Date.now() + 60_000));
    expect(freed).toMatchObject({ pictures: 1, originals: 1 });
  });
});
