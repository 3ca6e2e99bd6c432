import { mkdtempSync, rmSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';

let folder: string | undefined;
let laid = 0;

/** Lays what came out of a ZIP into a folder of this run's own, which goes when it ends; films are decoded from a path. */
export async function onePath(name: string, bytes: Uint8Array): Promise<string> {
  if (folder === undefined) {
    const made = mkdtempSync(path.join(tmpdir(), 'lime-tick-count-'));
    folder = made;
    process.on('exit', () => rmSync(made, { recursive: true, force: true }));
  }
  const file = path.join(folder, `${laid++}${path.extname(name)}`);
  await writeFile(file, bytes);
  return file;
}
