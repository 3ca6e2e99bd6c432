import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { zipped } from '@/server/service/package/outgoing';

const FILES: Readonly<Record<string, Uint8Array>> = {
  'nothing.png': new Uint8Array(0),
  'pictures/1.png': Uint8Array.from({ length: 70_001 }, (_, at) => (at * at) % 251),
  'pictures/Wäsche.png': Uint8Array.of(1, 2, 3),
};

const MADE_AT = new Date('2026-05-04T10:00:00Z');
const TEXT = 'What a stranger reads first.\n'.repeat(400);

async function* inParts(): AsyncGenerator<Uint8Array> {
  for (const part of ['ab', 'cd', 'ef']) yield new TextEncoder().encode(part);
}

async function all(bytes: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  for await (const part of bytes) parts.push(part);
  return Buffer.concat(parts);
}

const packed = (): Promise<Buffer> =>
  all(
    zipped(MADE_AT, async (zip) => {
      await zip.addText('README.txt', TEXT);
      for (const [name, bytes] of Object.entries(FILES)) await zip.addPacked(name, bytes);
      await zip.addPacked('originals/1', { parts: inParts(), sizeBytes: 6 });
      await zip.addParts('journal.jsonl', inParts());
    }),
  );

describe('a ZIP that is read while it is filled', () => {
  let folder = '';
  beforeEach(async () => {
    folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-outgoing-'));
  });
  afterEach(() => rm(folder, { recursive: true, force: true }));

  it('gives back the very bytes, their check sums right, by an independent unzip', async () => {
    const file = path.join(folder, 'out.zip');
    await writeFile(file, await packed());
    // It opens every file and holds it against its check sum.
    execFileSync('unzip', ['-tq', file]);
    execFileSync('unzip', ['-q', file, '-d', folder]);
    for (const [name, bytes] of Object.entries(FILES)) expect(Buffer.compare(await readFile(path.join(folder, name)), bytes)).toBe(0);
    expect(await readFile(path.join(folder, 'README.txt'), 'utf8')).toBe(TEXT);
    for (const name of ['originals/1', 'journal.jsonl']) expect(await readFile(path.join(folder, name), 'utf8')).toBe('abcdef');
    // By the second, in the zone of whoever unpacks it.
    expect((await stat(path.join(folder, 'README.txt'))).mtime.getTime()).toBe(MADE_AT.getTime());
  });

  it('is broken when a byte of a file is another', async () => {
    const zip = await packed();
    const at = zip.indexOf(FILES['pictures/1.png']?.subarray(1000, 1100) as Uint8Array);
    zip[at] = (zip[at] as number) ^ 1;
    const entries = await new ZipReader(new Uint8ArrayReader(zip), { useWebWorkers: false }).getEntries();
    const entry = entries.find(({ filename }) => filename === 'pictures/1.png');
    if (!entry || entry.directory) throw new Error('The file is not in the ZIP.');
    await expect(entry.getData(new Uint8ArrayWriter(), { checkSignature: true })).rejects.toThrow();
  });

  it('ends with what went wrong, and not as if it were whole', async () => {
    const failing = zipped(MADE_AT, async (zip) => {
      await zip.addPacked('1.png', new Uint8Array(300_000));
      throw new Error('The picture vanished.');
    });
    await expect(all(failing)).rejects.toThrow('The picture vanished.');
    async function* breaking(): AsyncGenerator<Uint8Array> {
      yield new Uint8Array(10);
      throw new Error('The disk is gone.');
    }
    const broken = zipped(MADE_AT, (zip) => zip.addParts('journal.jsonl', breaking()));
    await expect(all(broken)).rejects.toThrow('The disk is gone.');
  });

  it('is filled no further once nobody reads it, and whoever fills it is told', async () => {
    let added = 0;
    let tell: (reason: unknown) => void = () => undefined;
    const told = new Promise((resolve) => {
      tell = resolve;
    });
    const reading = zipped(MADE_AT, async (zip) => {
      try {
        for (;;) {
          await zip.addPacked(`${added}.png`, new Uint8Array(100_000));
          added++;
        }
      } catch (error) {
        tell(error);
        throw error;
      }
    });
    await reading.next();
    await reading.return(undefined);
    expect(await told).toEqual(new Error('Nobody reads the ZIP any more.'));
    expect(added).toBeLessThan(10);
  });
});
