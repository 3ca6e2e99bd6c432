import { openAsBlob } from 'node:fs';
import { readdir, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { BlobReader, type Entry, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { decodersFor } from '@/command/decoders';
import { onePath } from '@/command/zipped';
import { gifPages, readGif } from '@/core/format/gif/readGif';
import { mustBeDone } from '@/core/outcome';
import type { OpenedOutside } from '@/core/outside/countOutside';
import { endingOf, isNamedSo, isPictureName, type PictureKind, pictureKind } from '@/core/outside/pictureKind';
import { type FileGroup, fileGroups } from '@/core/outside/sequence';
import { openPictures as decodeFile } from '@/server/service/bringIn/decode';
import { NotOpened, openFilm } from '@/workers/count/openFilm';
import { type LoopFacts, loopFacts, openLoop } from '@/workers/count/openLoop';
import { type DecodedPicture, openPictures, type PictureFile } from '@/workers/count/openPictures';

/** Something to be counted, not yet opened. */
export type Countable = { readonly name: string; readonly open: () => Promise<OpenedOutside> };

/** A file on the disk or in a ZIP. `onDisk` gives a path where it lies, or is laid. */
type LyingFile = PictureFile & { readonly onDisk: () => Promise<string> };

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

const loopPages = (bytes: Uint8Array, name: string, { made }: LoopFacts) => (made === 'GIF' ? gifPictures(bytes) : pagesOf(bytes, name));

/** The one picture of a file. */
async function decodeOne(bytes: Uint8Array, name: string): Promise<DecodedPicture> {
  for await (const page of pagesOf(bytes, name)) return page;
  throw new Error('The file holds no picture.');
}

async function openPicture(name: string, file: LyingFile, kind: PictureKind): Promise<OpenedOutside> {
  const bytes = await file.read();
  const facts = loopFacts(bytes);
  const opened = facts ? openLoop(name, bytes, facts, loopPages(bytes, name, facts)) : openPictures(name, [file], decodeOne);
  return isNamedSo(name, kind) ? opened : withWrongName(opened, facts?.made ?? kind);
}

async function openOne(name: string, file: LyingFile): Promise<OpenedOutside> {
  const onDisk = await file.onDisk();
  const blob = await openAsBlob(onDisk);
  const kind = pictureKind(new Uint8Array(await blob.slice(0, 32).arrayBuffer()), name);
  if (kind) return openPicture(name, file, kind);
  const opened = await openFilm(blob, name, decodersFor(onDisk, blob));
  return isPictureName(name) ? withWrongName(opened, opened.kind === 'sound' ? 'sound' : 'film') : opened;
}

const withWrongName = (opened: OpenedOutside, kind: string): OpenedOutside => ({
  ...opened,
  made: kind,
  notes: () => [`Its name says otherwise, but it is a ${kind}.`, ...opened.notes()],
});

const countableOf = (group: FileGroup<LyingFile>): Countable => ({
  name: group.name,
  open: async () =>
    group.kind === 'one'
      ? openOne(group.name, group.file)
      : openPictures(
          group.name,
          group.files.map(({ file }) => file),
          decodeOne,
        ),
});

/** All files of a folder and the folders in it, but hidden ones. */
async function filesIn(folder: string, within = ''): Promise<readonly string[]> {
  const out: string[] = [];
  for (const entry of (await readdir(path.join(folder, within), { withFileTypes: true })).toSorted((a, b) => (a.name < b.name ? -1 : 1))) {
    if (entry.name.startsWith('.')) continue;
    const name = within === '' ? entry.name : `${within}/${entry.name}`;
    if (entry.isDirectory()) out.push(...(await filesIn(folder, name)));
    else if (entry.isFile()) out.push(name);
  }
  return out;
}

const lyingFile = (file: string, name: string, sizeBytes: number): LyingFile => ({
  name,
  sizeBytes,
  read: () => readFile(file),
  onDisk: async () => file,
});

async function countablesInFolder(folder: string): Promise<readonly Countable[]> {
  const names = await filesIn(folder);
  const files: LyingFile[] = [];
  for (const name of names) files.push(lyingFile(path.join(folder, name), name, (await stat(path.join(folder, name))).size));
  return fileGroups(files, ({ name }) => name).map(countableOf);
}

async function countablesInZip(file: string): Promise<readonly Countable[]> {
  const reader = new ZipReader(new BlobReader(await openAsBlob(file)), { useWebWorkers: false });
  let entries: readonly Entry[];
  try {
    entries = await reader.getEntries();
  } catch {
    throw new NotOpened('The ZIP is broken, or cut short: its list of files can’t be read.');
  }
  const files = entries.flatMap((entry): LyingFile[] => {
    if (entry.directory || entry.filename.split('/').some((part) => part.startsWith('.') || part === '__MACOSX')) return [];
    const read = () => entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
    return [{ name: entry.filename, sizeBytes: entry.uncompressedSize, read, onDisk: async () => onePath(entry.filename, await read()) }];
  });
  return fileGroups(files, ({ name }) => name).map(countableOf);
}

/** What lies at paths to be counted: pictures that differ in their number alone are one. Rejects with a sentence where nothing lies there. */
export async function countablesAt(paths: readonly string[]): Promise<readonly Countable[]> {
  const alone: LyingFile[] = [];
  const out: Countable[] = [];
  for (const each of paths) {
    const found = await stat(each).catch(() => null);
    if (!found) throw new NotOpened(`There is nothing at ${each}.`);
    if (found.isDirectory()) out.push(...(await countablesInFolder(each)));
    else if (endingOf(each) === 'zip') out.push(...(await countablesInZip(each)));
    else alone.push(lyingFile(each, each, found.size));
  }
  return [...fileGroups(alone, ({ name }) => name).map(countableOf), ...out];
}
