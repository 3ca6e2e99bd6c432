import { spawnSync } from 'node:child_process';
import { cp, mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { sql } from 'drizzle-orm';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { MIGRATIONS_FOLDER } from '@/server/db/client';
import { copiesOf, makeCopy, projectsIn, restoreCopy, restoreWords } from '@/server/db/copies';
import { FolderBroken, openEmbedded } from '@/server/db/embedded';
import { digestsOf } from '@/server/db/move';
import { projects } from '@/server/db/schema';

/** A data folder with one project in it, made once and copied. */
let template = '';
const newFolder = async () => {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-copies-'));
  await cp(template, folder, { recursive: true });
  return folder;
};

beforeAll(async () => {
  template = await mkdtemp(path.join(tmpdir(), 'lime-tick-copies-'));
  const opened = await openEmbedded(template, MIGRATIONS_FOLDER);
  await opened.database
    .insert(projects)
    .values({ id: 'washday', title: 'Washday', rateNum: 24, rateDen: 1, widthPx: 64, heightPx: 36, firstFrameNumber: 1 });
  await opened.close();
}, 120_000);

afterEach(() => vi.unstubAllEnvs());

/** Breaks a database so that it can't be opened. */
async function breakFolder(folder: string): Promise<void> {
  await writeFile(path.join(folder, 'database', 'global', 'pg_control'), 'rubbish');
}

describe('copies of the embedded database', () => {
  it('are proved by opening them, and the last three are kept', async () => {
    const folder = await newFolder();
    for (let count = 0; count < 5; count++) {
      const copy = await makeCopy(folder, true);
      expect(copy).toMatchObject({ projects: 1 });
    }
    const copies = await copiesOf(folder);
    expect(copies).toHaveLength(3);
    expect(await readdir(path.join(folder, 'copies'))).toHaveLength(3);
    expect(copies[0]?.madeAt && copies[2] && copies[0].madeAt > copies[2].madeAt).toBe(true);
  }, 120_000);

  it('bring everything back in an empty folder, the same to the last letter', async () => {
    const folder = await newFolder();
    const opened = await openEmbedded(folder, MIGRATIONS_FOLDER);
    const was = await digestsOf(opened.database);
    const copy = await opened.copies?.now();
    await opened.close();
    const fresh = await mkdtemp(path.join(tmpdir(), 'lime-tick-copies-'));
    await restoreCopy(fresh, copy?.folder ?? null);
    const back = await openEmbedded(fresh, MIGRATIONS_FOLDER);
    expect(await digestsOf(back.database)).toEqual(was);
    expect(was.find(({ table }) => table === 'projects')?.rows).toBe(1);
    await back.close();
    // A folder in which there is none says so, and nothing is changed.
    await expect(restoreCopy(fresh, path.join(fresh, 'database'))).rejects.toThrow('There is no copy');
  }, 120_000);

  it('are not made again soon after one, and none is kept that can’t be opened', async () => {
    const folder = await newFolder();
    expect(await makeCopy(folder, false)).not.toBeNull();
    expect(await makeCopy(folder, false)).toBeNull();
    await breakFolder(folder);
    expect(await makeCopy(folder, true)).toBeNull();
    expect(await copiesOf(folder)).toHaveLength(1);
  }, 120_000);

  it('of one that can’t be opened are offered; it is left as it is, and gone on from the last when that is wanted', async () => {
    const folder = await newFolder();
    await makeCopy(folder, true);
    await breakFolder(folder);
    const files = async () => (await readdir(path.join(folder, 'database'))).filter((name) => name !== 'postmaster.pid');
    const before = await files();
    await expect(openEmbedded(folder, MIGRATIONS_FOLDER)).rejects.toThrow(FolderBroken);
    expect(await restoreWords(folder)).toMatch(/It was left as it is\. The last good copy is of .* with 1 project\./);
    expect(await files()).toEqual(before);
    vi.stubEnv('LIME_TICK_RESTORE', 'latest');
    const opened = await openEmbedded(folder, MIGRATIONS_FOLDER);
    const rows = await opened.database.select({ id: projects.id }).from(projects);
    expect(rows).toEqual([{ id: 'washday' }]);
    await opened.close();
    expect((await readdir(folder)).some((name) => name.startsWith('database.put-aside-'))).toBe(true);
  }, 120_000);

  it('say so when there is none', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-copies-'));
    expect(await restoreWords(folder)).toContain('There is no copy of it.');
    expect(await makeCopy(folder, true)).toBeNull();
    expect(await projectsIn(path.join(folder, 'nothing-here', 'at-all'))).toBeNull();
    await rm(folder, { recursive: true });
  }, 120_000);
});

describe('a data folder that was lost', () => {
  it('ends the process before it writes', async () => {
    const folder = await newFolder();
    const opened = await openEmbedded(folder, MIGRATIONS_FOLDER);
    const end = vi.spyOn(process, 'exit').mockImplementation((code) => {
      throw new Error(`ended with ${code}`);
    });
    await writeFile(path.join(folder, 'holder.json'), JSON.stringify({ mark: 'another', pid: 1, host: 'elsewhere' }));
    await expect(opened.database.execute(sql`select 1`)).rejects.toThrow();
    await expect(
      opened.database.transaction(async (tx) => {
        await tx.update(projects).set({ title: 'Written' });
      }),
    ).rejects.toThrow();
    expect(end).toHaveBeenCalledWith(1);
    end.mockRestore();
    expect(spawnSync('true').status).toBe(0);
  }, 120_000);
});
