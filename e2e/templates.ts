import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newDataFolder, startServer } from './server';

/*
 * A new database takes ten seconds to make and the demo as many more to draw, so both are made once for all tests;
 * whoever needs a data folder gets a copy. The path goes to the tests through the environment.
 */

const FOLDER = 'LIME_TICK_TEMPLATES';

/** Makes the templates before the first test; what is returned takes them away after the last. */
async function makeTemplates(): Promise<() => Promise<void>> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-templates-'));
  const empty = path.join(folder, 'empty');
  const started = await startServer(empty);
  await started.kill('SIGTERM');
  const demo = path.join(folder, 'demo');
  await cp(empty, demo, { recursive: true });
  const app = await startServer(demo);
  const made = await fetch(`${app.url}/api/demo`, { method: 'POST' });
  if (!made.ok) throw new Error(`The demo could not be made: ${made.status}`);
  await app.kill('SIGTERM');
  process.env[FOLDER] = folder;
  return () => rm(folder, { recursive: true, force: true });
}
// The runner asks for a default export.
// biome-ignore lint/style/noDefaultExport: the test runner takes what it calls before all tests from there
export default makeTemplates;

/** A data folder of one's own: with nothing in it but a new database, or with the demo. */
export async function copiedDataFolder(template: 'empty' | 'demo' = 'empty'): Promise<string> {
  const folder = await newDataFolder();
  await cp(path.join(process.env[FOLDER] ?? '', template), folder, { recursive: true });
  return folder;
}
