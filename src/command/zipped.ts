import { mkdtempSync, rmSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';

let folder: string | undefined;
let laid = 0;

/** A folder of this run's own, which goes when it ends. */
function runFolder(): string {
  if (folder === undefined) {
    const made = mkdtempSync(path.join(tmpdir(), 'lime-tick-count-'));
    folder = made;
    process.on('exit', () => rmSync(made, { recursive: true, force: true }));
  }
  return folder;
}

/** A new folder in the one of this run. */
export const ownFolder = (): string => mkdtempSync(path.join(runFolder(), 'frames-'));

/** Lays what came out of a ZIP into the folder of this run; films are decoded from a path. */
export async function onePath(name: string, bytes: Uint8Array): Promise<string> {
  const file = path.join(runFolder(), `${laid++}${path.extname(name)}`);
  await writeFile(file, bytes);
  return file;
}
