import { spawn } from 'node:child_process';
import { constants } from 'node:fs';
import { cp, mkdir, readdir, readFile, rename, rm, stat, statfs, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { plural } from '@/core/time/counts';
import { copiesFolderOf, readCopySettings } from '@/server/db/copySettings';
import { log } from '@/server/log';

/*
 * Copies of the embedded database, made by itself: before it is opened at a start, and every few hours while
 * it runs, between two queries. A copy counts only once another process has opened it and read its projects.
 * The last few are kept, in `copies` beside the database or where it was settled. One that can't be opened is never offered.
 */

/** A start soon after the last copy needs no other. */
const FRESH_MILLISECONDS = 30 * 60 * 1000;
/** Room that must be left on the disk beside a copy. */
const SPARE_BYTES = 512 * 1024 * 1024;

/** A copy that was opened and read: its folder, when it was made, and what it held. */
export type Copy = { readonly folder: string; readonly madeAt: string; readonly projects: number; readonly sizeBytes: number };

/** Opens a copy as the server would and counts its projects; run by a process of its own, which can come to no harm here. */
const PROOF = `
  const { PGlite } = await import('@electric-sql/pglite');
  const client = await PGlite.create({ dataDir: process.argv[1] });
  const { rows } = await client.query('select count(*)::int as projects from projects');
  await client.query('select count(*) from journal');
  await client.close();
  console.log(JSON.stringify(rows[0]));
`;

/** How many projects a database in a folder holds; null when it can't be opened. */
export function projectsIn(databaseFolder: string): Promise<number | null> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, ['--input-type=module', '-e', PROOF, databaseFolder], { stdio: ['ignore', 'pipe', 'ignore'] });
    let said = '';
    child.stdout.on('data', (data: Buffer) => {
      said += data.toString();
    });
    child.once('error', () => resolve(null));
    child.once('exit', (code) => {
      const match = code === 0 ? /\{"projects":(\d+)\}/.exec(said) : null;
      resolve(match ? Number(match[1]) : null);
    });
  });
}

async function sizeOfFolder(folder: string): Promise<number> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const sizes = await Promise.all(entries.filter((entry) => entry.isFile()).map((entry) => stat(path.join(entry.parentPath, entry.name))));
  return sizes.reduce((sum, each) => sum + each.size, 0);
}

/** The copies of a data folder that were proved, newest first. */
export const copiesOf = async (dataFolder: string): Promise<Copy[]> =>
  copiesIn(copiesFolderOf(dataFolder, await readCopySettings(dataFolder)));

/** The copies in a folder that were proved, newest first. */
async function copiesIn(folder: string): Promise<Copy[]> {
  const names = await readdir(folder).catch(() => []);
  const copies = await Promise.all(
    names.map(async (name) => {
      try {
        const said = JSON.parse(await readFile(path.join(/* turbopackIgnore: true */ folder, name, 'copy.json'), 'utf8')) as Omit<
          Copy,
          'folder'
        >;
        return [{ ...said, folder: path.join(/* turbopackIgnore: true */ folder, name) }];
      } catch {
        return [];
      }
    }),
  );
  return copies.flat().sort((a, b) => (a.madeAt < b.madeAt ? 1 : -1));
}

/**
 * Copies the database of a data folder, which nobody writes to meanwhile; `copied` is told when the original may
 * be written to again. Gives the proved copy, or null when there was no need or no room, or it couldn't be opened.
 */
export async function makeCopy(dataFolder: string, isDue: boolean, copied: () => void = () => undefined): Promise<Copy | null> {
  const database = path.join(/* turbopackIgnore: true */ dataFolder, 'database');
  const settings = await readCopySettings(dataFolder);
  const place = copiesFolderOf(dataFolder, settings);
  const before = await copiesIn(place);
  const [newest] = before;
  if (!isDue && newest && Date.now() - Date.parse(newest.madeAt) < FRESH_MILLISECONDS) return null;
  const sizeBytes = await sizeOfFolder(database).catch(() => 0);
  if (sizeBytes === 0) return null;
  await mkdir(place, { recursive: true });
  const disk = await statfs(place);
  if (disk.bavail * disk.bsize < sizeBytes + SPARE_BYTES) {
    log.warn({ database }, 'no copy of the database was made: the disk has too little room for it');
    return null;
  }
  const madeAt = new Date().toISOString();
  const folder = path.join(/* turbopackIgnore: true */ place, madeAt.replaceAll(':', '-'));
  await mkdir(folder, { recursive: true });
  // Where the disk can, both share what is the same.
  await cp(database, path.join(/* turbopackIgnore: true */ folder, 'database'), { recursive: true, mode: constants.COPYFILE_FICLONE });
  copied();
  const projects = await projectsIn(path.join(/* turbopackIgnore: true */ folder, 'database'));
  if (projects === null) {
    await rm(folder, { recursive: true, force: true });
    return null;
  }
  const copy = { madeAt, projects, sizeBytes };
  await writeFile(path.join(/* turbopackIgnore: true */ folder, 'copy.json.new'), JSON.stringify(copy));
  await rename(path.join(/* turbopackIgnore: true */ folder, 'copy.json.new'), path.join(/* turbopackIgnore: true */ folder, 'copy.json'));
  for (const old of before.slice(Math.max(0, settings.kept - 1))) await rm(old.folder, { recursive: true, force: true });
  return { ...copy, folder };
}

/** There is no copy to go on from; the message says where it was looked for. */
export class NoCopy extends Error {
  override readonly name = 'NoCopy';
}

/** What to say of a database that can't be opened: that it was left as it is, and which copy there is. */
export async function restoreWords(dataFolder: string): Promise<string> {
  const [newest] = await copiesOf(dataFolder);
  const left = `The database in ${dataFolder} can’t be opened. It was left as it is.`;
  if (!newest) return `${left} There is no copy of it.`;
  return `${left} The last good copy is of ${newest.madeAt.slice(0, 16).replace('T', ' ')} UTC, with ${plural(newest.projects, 'project')}. To go on from that copy, start with LIME_TICK_RESTORE=latest; what can’t be opened is kept beside it.`;
}

/** The copy that is meant by a folder: one copy, or the newest of several that lie in it. */
async function copyAt(folder: string): Promise<Copy | undefined> {
  const inParent = (await copiesIn(path.dirname(path.resolve(folder)))).find((copy) => copy.folder === path.resolve(folder));
  return inParent ?? (await copiesIn(folder))[0] ?? (await copiesOf(folder))[0];
}

/**
 * Puts a proved copy in the place of a database, which is kept under another name: the newest one of a data folder, or the one
 * in `from`, which may have come from another machine. Throws when there is none.
 */
export async function restoreCopy(dataFolder: string, from: string | null): Promise<Copy> {
  const newest = from === null ? (await copiesOf(dataFolder))[0] : await copyAt(from);
  if (!newest)
    throw new NoCopy(`There is no copy in ${from ?? copiesFolderOf(dataFolder, await readCopySettings(dataFolder))} to go on from.`);
  const database = path.join(/* turbopackIgnore: true */ dataFolder, 'database');
  const restored = path.join(/* turbopackIgnore: true */ dataFolder, 'database.restored');
  await rm(restored, { recursive: true, force: true });
  await cp(path.join(/* turbopackIgnore: true */ newest.folder, 'database'), restored, {
    recursive: true,
    mode: constants.COPYFILE_FICLONE,
  });
  const isThere = await stat(database).then(
    () => true,
    () => false,
  );
  if (isThere) await rename(database, `${database}.put-aside-${new Date().toISOString().replaceAll(':', '-')}`);
  await rename(restored, database);
  return newest;
}
