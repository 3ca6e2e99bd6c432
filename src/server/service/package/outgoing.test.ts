import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { addPacked, zipped } from '@/server/service/package/outgoing';

const FILES: Readonly<Record<string, Uint8Array>> = {
  'nothing.png': new Uint8Array(0),
  'pictures/1.png': Uint8Array.from({ length: 70_001 }, (_, at) => (at * at) % 251),
  'pictures/Wäsche.png': Uint8Array.of(1, 2, 3),
};

async function packed(): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  for await (const part of zipped(async (zip) => {
    for (const [name, bytes] of Object.entries(FILES)) await addPacked(zip, name, bytes, new Date('2026-05-04T10:00:00Z'));
  }))
    parts.push(part);
  return Buffer.concat(parts);
}

describe('files that are packed already', () => {
  let folder = '';
  beforeEach(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-outgoing-'));
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('come out of the ZIP with the very bytes, their check sums right, by an independent unzip', async () => {
    const file = path.join(folder, 'out.zip');
    await writeFile(file, await packed());
    // It opens every file and holds it against its check sum.
    execFileSync('unzip', ['-tq', file]);
    execFileSync('unzip', ['-q', file, '-d', folder]);
    for (const [name, bytes] of Object.entries(FILES)) expect(Buffer.compare(await readFile(path.join(folder, name)), bytes)).toBe(0);
  });

  it('are refused when a byte of one is another', async () => {
    const zip = await packed();
    const at = zip.indexOf(FILES['pictures/1.png']?.subarray(1000, 1100) as Uint8Array);
    zip[at] = (zip[at] as number) ^ 1;
    const entries = await new ZipReader(new Uint8ArrayReader(zip), { useWebWorkers: false }).getEntries();
    const entry = entries.find(({ filename }) => filename === 'pictures/1.png');
    if (!entry || entry.directory) throw new Error('The file is not in the ZIP.');
    await expect(entry.getData(new Uint8ArrayWriter(), { checkSignature: true })).rejects.toThrow();
  });
});
