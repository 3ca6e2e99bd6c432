import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { MIGRATIONS_FOLDER } from '@/server/db/client';
import { openEmbedded } from '@/server/db/embedded';

/* A new database takes seconds to make: it is made once for all files of tests, each of which works on a copy. */

const FOLDER = 'LIME_TICK_NEW_DATABASE';

/** The data folder with a new database in it; it is to be copied, not opened. */
export function newDatabase(): string {
  const folder = process.env[FOLDER];
  if (folder === undefined) throw new Error('No database was made for the tests.');
  return folder;
}

/** Makes the database before the first file of tests; what is returned takes it away after the last. */
async function makeNewDatabase(): Promise<() => Promise<void>> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-test-'));
  const opened = await openEmbedded(folder, MIGRATIONS_FOLDER);
  await opened.close();
  process.env[FOLDER] = folder;
  return () => rm(folder, { recursive: true, force: true });
}
// The runner asks for a default export.
// biome-ignore lint/style/noDefaultExport: the test runner takes what it calls before all tests from there
export default makeNewDatabase;
