import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Step } from '@/core/edit/step';
import { MIGRATIONS_FOLDER } from '@/server/db/client';
import { restoreCopy } from '@/server/db/copies';
import { openEmbedded } from '@/server/db/embedded';
import { changeOnShelf, deleteForGood, duplicate, holdings } from '@/server/service/keep';
import { createProject, openProject, picturePngs } from '@/server/service/projects';
import { shelf } from '@/server/service/shelf';
import { acceptSteps, changesSince } from '@/server/service/steps';
import { backUpNow, freeableNow, freeNow, settleBackups, storeState } from '@/server/service/storeState';
import { loadDocument } from '@/server/store/loadDocument';
import { flatPicture, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 64, height: 36 };

/** A project with a drawing of each colour; the first of them replaced by the last, so that its past alone names that. */
async function drawn(title: string, colours: readonly string[]): Promise<{ id: string; digests: readonly string[] }> {
  const { id } = await createProject({ title, rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 48 });
  const opened = await openProject(id);
  const shot = opened.ok ? opened.value.project.shots[0] : undefined;
  const on = { shotId: shot?.id ?? '', levelId: shot?.levels[0]?.id ?? '' };
  const pictures = await Promise.all(colours.map((colour) => flatPicture(colour, SIZE)));
  const steps: Step[] = pictures.map(({ digest }, index) =>
    index === 0
      ? { type: 'addDrawing', ...on, drawing: { id: 'd', number: '1', role: 'key', picture: digest }, index: 0 }
      : { type: 'setPicture', ...on, drawingId: 'd', picture: digest },
  );
  const made = await acceptSteps(id, { baseRevision: 0, batchId: 'b', madeBy: null, steps, stepIds: [] }, pictures);
  if (!made.ok) throw new Error(made.error);
  return { id, digests: pictures.map(({ digest }) => digest) };
}

const entryOf = async (id: string) => (await shelf()).find((entry) => entry.id === id);
const areThere = async (digests: readonly string[]) => (await picturePngs(digests)).map((png) => png !== null);

beforeAll(async () => {
  await useOwnDataFolder();
});

describe('the shelf keeps house', () => {
  it('renames a project by a step, which windows hear of and can undo', async () => {
    const { id } = await drawn('Sock', ['#110000']);
    expect(await changeOnShelf(id, { title: 'Two socks' })).toMatchObject({ ok: true });
    expect((await entryOf(id))?.title).toBe('Two socks');
    const since = await changesSince(id, 1);
    expect(since.ok && since.value.changes.map(({ step, madeBy }) => [step, madeBy?.words])).toEqual([
      [{ type: 'renameProject', title: 'Two socks' }, 'the shelf'],
    ]);
    expect(await changeOnShelf('nobody', { title: 'x' })).toMatchObject({ ok: false, status: 404 });
  });

  it('puts a project away and back; it opens all the while', async () => {
    const { id } = await drawn('Away', ['#220000']);
    await changeOnShelf(id, { isPutAway: true });
    expect((await entryOf(id))?.putAwayAt).not.toBeNull();
    expect((await openProject(id)).ok).toBe(true);
    await changeOnShelf(id, { isPutAway: false });
    expect((await entryOf(id))?.putAwayAt).toBeNull();
    expect(await changeOnShelf('nobody', { isPutAway: true })).toMatchObject({ ok: false, status: 404 });
  });

  it('duplicates what a project is now, as one that goes its own way', async () => {
    const { id } = await drawn('First', ['#330000', '#330033']);
    const made = await duplicate(id);
    if (!made.ok) throw new Error(made.error);
    const [first, copy] = [await openProject(id), await openProject(made.value.id)];
    if (!first.ok || !copy.ok) throw new Error('Both open.');
    expect(copy.value.project).toEqual({ ...first.value.project, id: made.value.id, title: 'First (copy)' });
    expect(copy.value.revision).toBe(0);
    await changeOnShelf(made.value.id, { title: 'Second' });
    expect((await entryOf(id))?.title).toBe('First');
    expect(await duplicate('nobody')).toMatchObject({ ok: false, status: 404 });
  });

  it('says what goes with a project, and what of it stays for others', async () => {
    const { id, digests } = await drawn('Goes', ['#440000', '#440044']);
    const other = await drawn('Stays', ['#440044']);
    const found = await holdings(id);
    if (!found.ok) throw new Error(found.error);
    expect(found.value).toMatchObject({ title: 'Goes', shots: 1, drawings: 1, recordings: 0, receipts: 0, changes: 2, moments: 0 });
    expect(found.value.ownBytes).toBeGreaterThan(0);
    expect(found.value.ownBytes).toBeLessThan(found.value.bytes);

    // Under another name than it was seen, it stays.
    expect(await deleteForGood(id, 'Gone')).toMatchObject({ ok: false, status: 422 });
    const bytesBefore = (await freeableNow()).bytes;
    expect(await deleteForGood(id, 'Goes')).toMatchObject({ ok: true });
    expect(await openProject(id)).toMatchObject({ ok: false, status: 404 });
    expect(await areThere(digests)).toEqual([true, true]);
    expect((await freeableNow()).bytes - bytesBefore).toBe(found.value.ownBytes);
    expect((await freeNow()).pictures).toBe(1);
    // What the other shows stays, and what its past alone names does too.
    expect(await areThere(digests)).toEqual([false, true]);
    expect(await areThere(other.digests)).toEqual([true]);
    expect(await freeNow()).toEqual({ pictures: 0, originals: 0, bytes: 0 });
  });

  it('frees nothing that could still be undone', async () => {
    const { digests } = await drawn('Undone', ['#550000', '#550055', '#555555']);
    await freeNow();
    expect(await areThere(digests)).toEqual([true, true, true]);
  });

  it('says how much each takes, and where everything lies', async () => {
    const { id } = await drawn('Large', ['#660000']);
    const state = await storeState();
    expect(state.place).toBe(process.env.LIME_TICK_DATA);
    expect(state.projects.find((project) => project.id === id)?.bytes).toBeGreaterThan(100);
    expect(state.database).toMatchObject({ kind: 'embedded' });
    expect(state.disk?.freeBytes).toBeGreaterThan(0);
  });
});

describe('backups', () => {
  it('are made while one works, where it was settled, and bring all back in an empty folder', async () => {
    const { id, digests } = await drawn('Backed up', ['#770000', '#770077']);
    const before = await openProject(id);
    const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-backups-'));
    const settings = { version: 1 as const, isOn: true, everyHours: 24, kept: 2, folder };
    expect(await settleBackups({ ...settings, folder: 'here' })).toMatchObject({ ok: false, status: 422 });
    expect(await settleBackups({ ...settings, folder: '/proc/lime-tick' })).toMatchObject({ ok: false, status: 422 });
    expect(await settleBackups(settings)).toEqual({ ok: true, value: settings });
    const made = await Promise.all([backUpNow(), changeOnShelf(id, { title: 'Backed up, drawn on' })]);
    expect(made.map(({ ok }) => ok)).toEqual([true, true]);
    const { backups } = await storeState();
    expect(backups?.made.map((backup) => path.dirname(backup.folder))).toEqual([folder]);

    const fresh = await mkdtemp(path.join(tmpdir(), 'lime-tick-fresh-'));
    await restoreCopy(fresh, folder);
    const opened = await openEmbedded(fresh, MIGRATIONS_FOLDER);
    const loaded = await loadDocument(opened.database, id);
    await opened.close();
    if (!before.ok || !loaded) throw new Error('Both are there.');
    // The rename came before the backup or after it.
    expect({ ...loaded.project, title: '' }).toEqual({ ...before.value.project, title: '' });
    expect(digests).toContain(loaded.project.shots[0]?.levels[0]?.drawings[0]?.picture);
    // A copy may still be proved there.
    for (const each of [folder, fresh]) await rm(each, { recursive: true, maxRetries: 10 });
  }, 120_000);
});
