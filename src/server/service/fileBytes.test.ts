import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { describe, expect, it } from 'vitest';
import { fileBytes } from '@/server/service/fileBytes';

const fileIn = async (bytes: Uint8Array): Promise<string> => {
  const file = path.join(await mkdtemp(path.join(tmpdir(), 'lime-tick-bytes-')), 'file');
  await writeFile(file, bytes);
  return file;
};

describe('the bytes of a file', () => {
  it('are all of it, in order', async () => {
    const all = Uint8Array.from({ length: 300_000 }, (_, at) => (at * 7) % 253);
    const read: Uint8Array[] = [];
    for await (const part of fileBytes(await fileIn(all))) read.push(part);
    expect(Buffer.compare(Buffer.concat(read), all)).toBe(0);
  });

  it('that nobody asks for open nothing, so that a file that is gone by then ends no process', async () => {
    const file = await fileIn(Uint8Array.of(1));
    const errors: unknown[] = [];
    const note = (error: unknown) => errors.push(error);
    process.on('uncaughtException', note);
    fileBytes(file);
    await rm(file);
    await pause(50);
    process.off('uncaughtException', note);
    expect(errors).toEqual([]);
  });

  it('of one that is gone are refused to whoever asks', async () => {
    const file = await fileIn(Uint8Array.of(1));
    const bytes = fileBytes(file);
    await rm(file);
    await expect(bytes.next()).rejects.toThrow('ENOENT');
  });
});
