import { openAsBlob } from 'node:fs';
import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { decodersFor } from '@/command/decoders';
import { shrunkPicture } from '@/command/shrunkPicture';
import { onePath } from '@/command/zipped';
import { gifPages, readGif } from '@/core/format/gif/readGif';
import { mustBeDone } from '@/core/outcome';
import type { OpenedOutside } from '@/core/outside/countOutside';
import { openPictures as decodeFile } from '@/server/service/bringIn/decode';
import { NotOpened } from '@/workers/count/openFilm';
import { type CountFile, groupsOf, isHidden, type Machine, openGroup } from '@/workers/count/openGroup';
import { type DecodedPicture, frameOf } from '@/workers/count/openPictures';

/** Something to be counted, not yet opened. */
export type Countable = { readonly name: string; readonly open: () => Promise<OpenedOutside> };

/** A file on the disk; one that lay in a ZIP has no path until it is laid somewhere. */
type DiskFile = CountFile & { readonly onDisk?: string };

/** The pictures of a file as they are seen, one after another. Throws with a sentence where they can't be read. */
async function* pagesOf(bytes: Uint8Array, name: string): AsyncGenerator<DecodedPicture> {
  const decoded = await decodeFile(bytes, name);
  if (!decoded.ok) throw new Error(decoded.reason);
  for await (const { size, rgba } of decoded.value.pages)
    yield { size, rgba: new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.byteLength) };
}

/** A GIF is read by ourselves, however many pictures it has. */
async function* gifPictures(bytes: Uint8Array): AsyncGenerator<DecodedPicture> {
  const gif = mustBeDone(readGif(bytes));
  for (const rgba of gifPages(bytes, gif)) yield { size: gif.size, rgba };
}

/** The image library decodes on four threads: while what it gave is looked at, they have as many again to do. */
const PICTURES_AT_ONCE = 8;

const nodeMachine = (wantsDigests: boolean): Machine => ({
  pictures: {
    read: async (bytes, name, digest) => {
      const quick = await shrunkPicture(bytes, digest);
      if (quick) return quick;
      for await (const page of pagesOf(bytes, name)) return frameOf(page);
      throw new Error('The file holds no picture.');
    },
    atOnce: PICTURES_AT_ONCE,
  },
  loopPages: (bytes, name, { made }) => (made === 'GIF' ? gifPictures(bytes) : pagesOf(bytes, name)),
  decoders: async (file: DiskFile, blob) => decodersFor(file.onDisk ?? (await onePath(file.name, await file.read())), blob, wantsDigests),
});

/** All files of a folder and the folders in it, but hidden ones. */
async function filesIn(folder: string, within = ''): Promise<readonly string[]> {
  const out: string[] = [];
  for (const entry of (await readdir(path.join(folder, within), { withFileTypes: true })).toSorted((a, b) => (a.name < b.name ? -1 : 1))) {
    const name = within === '' ? entry.name : `${within}/${entry.name}`;
    if (isHidden(entry.name)) continue;
    if (entry.isDirectory()) out.push(...(await filesIn(folder, name)));
    else if (entry.isFile()) out.push(name);
  }
  return out;
}

const diskFile = (onDisk: string, name: string, sizeBytes: number): DiskFile => ({
  name,
  sizeBytes,
  onDisk,
  read: () => readFile(onDisk),
  blob: () => openAsBlob(onDisk),
});

/**
 * What lies at paths to be counted: pictures that differ in their number alone are one. Rejects with a sentence where nothing lies there.
 * Digests of films are worked out where they are wanted: a receipt alone asks for them.
 */
export async function countablesAt(paths: readonly string[], wantsDigests = false): Promise<readonly Countable[]> {
  const files: DiskFile[] = [];
  for (const each of paths) {
    const found = await stat(each).catch(() => null);
    if (!found) throw new NotOpened(`There is nothing at ${each}.`);
    if (!found.isDirectory()) files.push(diskFile(each, each, found.size));
    else
      for (const name of await filesIn(each)) {
        const onDisk = path.join(each, name);
        files.push(diskFile(onDisk, name, (await stat(onDisk)).size));
      }
  }
  const machine = nodeMachine(wantsDigests);
  return (await groupsOf(files)).map((group) => ({ name: group.name, open: () => openGroup(group, machine) }));
}
