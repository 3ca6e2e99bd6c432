import { BlobReader, type Entry, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import type { OpenedOutside } from '@/core/outside/countOutside';
import { endingOf, isNamedSo, isPictureName, type PictureKind, pictureKind } from '@/core/outside/pictureKind';
import { type FileGroup, fileGroups } from '@/core/outside/sequence';
import { type Decoders, NotOpened, openFilm } from '@/workers/count/openFilm';
import { type LoopFacts, loopFacts, openLoop } from '@/workers/count/openLoop';
import { type DecodedPicture, openPictures, type PictureFile, type PictureReading } from '@/workers/count/openPictures';

/** A file that is to be counted; `blob` is the whole of it, unpacked where it lies in a ZIP. */
export type CountFile = PictureFile & { readonly blob: () => Promise<Blob> };

/** How the machine that counts decodes pictures, loops, films and sounds. */
export type Machine = {
  readonly pictures: PictureReading;
  readonly loopPages: (bytes: Uint8Array, name: string, facts: LoopFacts) => AsyncIterable<DecodedPicture>;
  readonly decoders: (file: CountFile, blob: Blob) => Promise<Decoders>;
};

const FIRST_BYTES = 32;

const withWrongName = (opened: OpenedOutside, kind: string): OpenedOutside => ({
  ...opened,
  made: kind,
  notes: () => [`Its name says otherwise, but it is a ${kind}.`, ...opened.notes()],
});

async function openPicture(name: string, file: CountFile, kind: PictureKind, { pictures, loopPages }: Machine): Promise<OpenedOutside> {
  const bytes = await file.read();
  const facts = loopFacts(bytes);
  const opened = facts ? openLoop(name, bytes, facts, loopPages(bytes, name, facts)) : openPictures(name, [file], pictures);
  return isNamedSo(name, kind) ? opened : withWrongName(opened, facts?.made ?? kind);
}

/** Opens what is to be counted, by what it holds. Throws `NotOpened` with a sentence where it can't be. */
export async function openGroup(group: FileGroup<CountFile>, machine: Machine): Promise<OpenedOutside> {
  if (group.kind === 'sequence') {
    const files = group.files.map(({ file }) => file);
    return openPictures(group.name, files, machine.pictures);
  }
  const { name, file } = group;
  const blob = await file.blob();
  const kind = pictureKind(new Uint8Array(await blob.slice(0, FIRST_BYTES).arrayBuffer()), name);
  if (kind) return openPicture(name, file, kind, machine);
  const opened = await openFilm(blob, name, await machine.decoders(file, blob));
  return isPictureName(name) ? withWrongName(opened, opened.kind === 'sound' ? 'sound' : 'film') : opened;
}

/** What nobody means to have counted: hidden files, and what some systems put into ZIPs. */
export const isHidden = (path: string): boolean => path.split('/').some((part) => part.startsWith('.') || part === '__MACOSX');

async function filesInZip(zip: Blob): Promise<readonly CountFile[]> {
  let entries: readonly Entry[];
  try {
    entries = await new ZipReader(new BlobReader(zip), { useWebWorkers: false }).getEntries();
  } catch {
    throw new NotOpened('The ZIP is broken, or cut short: its list of files can’t be read.');
  }
  return entries.flatMap((entry): CountFile[] => {
    if (entry.directory || isHidden(entry.filename)) return [];
    const read = () => entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
    const blob = async () => new Blob([(await read()) as Uint8Array<ArrayBuffer>]);
    return [{ name: entry.filename, sizeBytes: entry.uncompressedSize, read, blob }];
  });
}

/** What lies in a ZIP, parted; a broken one stands for itself, and says so when it is opened. */
async function groupsInZip(zip: CountFile): Promise<readonly FileGroup<CountFile>[]> {
  try {
    return fileGroups(await filesInZip(await zip.blob()), ({ name }) => name);
  } catch (error) {
    if (!(error instanceof NotOpened)) throw error;
    const file = { ...zip, blob: () => Promise.reject(error) };
    return [{ kind: 'one', name: zip.name, file }];
  }
}

/** Parts files into what is counted as one; what lies in a ZIP is parted by itself. */
export async function groupsOf(files: readonly CountFile[]): Promise<readonly FileGroup<CountFile>[]> {
  const groups: FileGroup<CountFile>[] = [];
  const alone: CountFile[] = [];
  for (const file of files) {
    if (endingOf(file.name) !== 'zip') alone.push(file);
    else groups.push(...(await groupsInZip(file)));
  }
  return [...fileGroups(alone, ({ name }) => name), ...groups];
}
