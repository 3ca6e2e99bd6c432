import { createHash } from 'node:crypto';
import { type FileHandle, open } from 'node:fs/promises';
import { type Entry, type FileEntry, Reader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { PACKAGE_FORMAT, PACKAGE_VERSION, type PackageFacts } from '@/contracts/package';
import { checkFactsBytes, FACTS_FILE, NO_FACTS, readPackageFacts } from '@/contracts/packageFile';
import type { Project } from '@/core/document/model';
import { originalsOf, picturesOf } from '@/core/document/originals';
import { done, type Outcome, refused } from '@/core/outcome';
import { countText } from '@/core/time/counts';
import { changesIn } from '@/server/service/package/readJournal';
import { readPicture } from '@/server/service/readPicture';
import type { StoredChange } from '@/server/store/journal';
import type { KnownPicture, StoredPicture } from '@/server/store/pictures';

/* Opens a package and checks all of it; nothing is kept of what is read before everything is known to be right. */

const JOURNAL = 'journal.jsonl';
const MEBIBYTE = 1024 * 1024;
const MOST_ENTRIES = 250_000;
/** How many pictures are read ahead of the one that is waited for. */
export const PICTURES_AHEAD = 8;
export const MOST_PICTURE_BYTES = 64 * MEBIBYTE;
const MOST_ORIGINAL_BYTES = 4096 * MEBIBYTE;
/** Files in it that nothing names: a stranger's notes, but no more. */
const MOST_STRANGERS = 100;
/** A file that unpacks to more than so many times its packed size is a bomb: JSON packs to a fifth or a hundredth. */
const MOST_RATIO = 400;

class FileReader extends Reader<FileHandle> {
  constructor(
    private readonly file: FileHandle,
    private readonly sizeBytes: number,
  ) {
    super(file);
  }

  override async init(): Promise<void> {
    this.size = this.sizeBytes;
  }

  override async readUint8Array(index: number, length: number): Promise<Uint8Array> {
    const bytes = new Uint8Array(Math.max(0, Math.min(length, this.sizeBytes - index)));
    await this.file.read(bytes, 0, bytes.byteLength, index);
    return bytes;
  }
}

/** Pictures whose bytes were found to be right, by the digest of their pixels. */
export type KnownPictures = ReadonlyMap<string, KnownPicture>;

export const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** What is wrong with a package stops it; the message is for a person. */
class BadPackage extends Error {}

const bad = (reason: string): never => {
  throw new BadPackage(reason);
};

/** Why a ZIP can't be opened: its names are looked at first. */
const unzipWords = (error: unknown): string =>
  error instanceof Error && error.message.startsWith('Unsafe filename')
    ? 'A file in it has a name that leads out of it.'
    : 'It is not a whole ZIP: it was cut, or is something else.';

/** A name that could lead out of a folder, or mean another thing on another system. */
const isUnsafe = (name: string): boolean =>
  name === '' ||
  name.startsWith('/') ||
  name.includes('\\') ||
  /^[A-Za-z]:/.test(name) ||
  name.split('/').includes('..') ||
  name.includes('\0');

function checkEntries(entries: readonly Entry[]): ReadonlyMap<string, FileEntry> {
  if (entries.length > MOST_ENTRIES) bad(`It has ${countText(entries.length)} files in it; ${countText(MOST_ENTRIES)} is the most.`);
  const files = new Map<string, FileEntry>();
  const taken = new Set<string>();
  for (const entry of entries) {
    const { filename } = entry;
    if (isUnsafe(filename)) bad(`A file in it has the name “${filename.slice(0, 80)}”, which leads out of it.`);
    const plain = filename.toLowerCase().normalize('NFC');
    if (taken.has(plain)) bad(`Two files in it are called ${filename.slice(0, 80)}.`);
    taken.add(plain);
    if (entry.directory) continue;
    if (entry.encrypted) bad(`${filename} in it is locked with a password.`);
    if (entry.uncompressedSize > entry.compressedSize * MOST_RATIO + MEBIBYTE)
      bad(
        `${filename} in it unpacks to ${countText(entry.uncompressedSize)} bytes out of ${countText(entry.compressedSize)}: it is not what it says.`,
      );
    files.set(filename, entry);
  }
  return files;
}

/** Whatever of reading a package goes wrong by the package's own fault, as a refusal. */
async function unlessBad<T>(read: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return done(await read());
  } catch (error) {
    if (error instanceof BadPackage) return refused(error.message);
    throw error;
  }
}

/** A ZIP that is open, its entries checked. */
export class OpenZip {
  private constructor(
    private readonly file: FileHandle,
    private readonly zip: ZipReader<unknown>,
    readonly files: ReadonlyMap<string, FileEntry>,
  ) {}

  static async open(path: string, sizeBytes: number): Promise<Outcome<OpenZip>> {
    const file = await open(path, 'r');
    const zip = new ZipReader(new FileReader(file, sizeBytes), { useWebWorkers: false });
    const opened = await unlessBad(async () => {
      const entries = await zip.getEntries().catch((error: unknown) => bad(unzipWords(error)));
      return new OpenZip(file, zip, checkEntries(entries));
    });
    if (!opened.ok) {
      await zip.close().catch(() => undefined);
      await file.close();
    }
    return opened;
  }

  async close(): Promise<void> {
    await this.zip.close().catch(() => undefined);
    await this.file.close();
  }

  /** A file of it whole; refused where it isn't there, is broken, or has more than so many bytes. */
  async bytes(name: string, most: number): Promise<Outcome<Uint8Array>> {
    const entry = this.files.get(name);
    if (!entry) return refused(`${name} is not in it.`);
    if (entry.uncompressedSize > most)
      return refused(`${name} in it has ${countText(entry.uncompressedSize)} bytes; ${countText(most)} is the most.`);
    try {
      return done(await entry.getData(new Uint8ArrayWriter(), { checkSignature: true }));
    } catch {
      return refused(`${name} in it is broken.`);
    }
  }
}

/** What a package of drawings alone has of everything else: nothing. */
const nothingBeside = (project: Project): PackageFacts => ({
  ...{ format: PACKAGE_FORMAT, version: PACKAGE_VERSION, madeAt: new Date().toISOString(), revision: 0 },
  document: project as unknown as PackageFacts['document'],
  ...{ pictures: [], originals: [], missing: [], sources: [], receipts: [], recipes: [] },
});

/** A package that is open: what it says, and its pictures and files, each read and checked when it is asked for. */
export class OpenPackage {
  private readonly files: ReadonlyMap<string, FileEntry>;

  private constructor(
    private readonly zip: OpenZip,
    readonly facts: PackageFacts,
    readonly project: Project,
    /** The file of a picture in it. */
    private readonly pictureFile: (digest: string) => string,
  ) {
    this.files = zip.files;
  }

  /** Reads what a package says and checks that; its pictures and files are checked by whoever reads them. */
  static of(zip: OpenZip): Promise<Outcome<OpenPackage>> {
    return unlessBad(async () => {
      const { facts, project } = await readFacts(zip.files);
      const opened = new OpenPackage(zip, facts, project, (digest) => `pictures/${digest}.png`);
      opened.checkNamed();
      return opened;
    });
  }

  /** A package of drawings alone, read before: its project, and the file of each picture by its digest. */
  static ofDrawings(zip: OpenZip, project: Project, fileOf: ReadonlyMap<string, string>): OpenPackage {
    return new OpenPackage(zip, nothingBeside(project), project, (digest) => fileOf.get(digest) ?? '');
  }

  close(): Promise<void> {
    return this.zip.close();
  }

  private checkNamed(): void {
    const { facts, project, files } = this;
    const missing = new Set(facts.missing);
    for (const digest of [...picturesOf(project), ...(facts.journal?.pictures ?? [])])
      if (!files.has(`pictures/${digest}.png`) && !missing.has(digest))
        bad(`The picture ${digest.slice(0, 12)}… that a drawing shows is not in it.`);
    for (const digest of [...originalsOf(project).keys(), ...facts.sources.map(({ original }) => original)])
      if (!files.has(`originals/${digest}`) && !missing.has(digest)) bad(`The file ${digest.slice(0, 12)}… that it names is not in it.`);
    if (facts.journal && !files.has(JOURNAL)) bad('Its changes are not in it.');
    const strangers = files.size - this.pictureDigests.length - this.originalDigests.length;
    if (strangers > MOST_STRANGERS) bad(`${countText(strangers)} files in it are named by nothing in it: it is not what it says.`);
  }

  /** The digests of its pictures and of its files. */
  get pictureDigests(): readonly string[] {
    const named = new Set([...picturesOf(this.project), ...(this.facts.journal?.pictures ?? [])]);
    return [...named].filter((digest) => this.files.has(this.pictureFile(digest)));
  }
  get originalDigests(): readonly string[] {
    const { sources, originals } = this.facts;
    const named = new Set([
      ...originalsOf(this.project).keys(),
      ...sources.map(({ original }) => original),
      ...originals.map(({ digest }) => digest),
    ]);
    return [...named].filter((digest) => this.files.has(`originals/${digest}`));
  }

  /**
   * A picture, decoded and held against its digest; refused where it has other pixels, or none. Bytes that were found to be
   * right before, as those in the store are, are not decoded once more: they are known by their SHA-256.
   */
  async picture(digest: string, known: KnownPictures = new Map()): Promise<Outcome<StoredPicture>> {
    const png = await this.zip.bytes(this.pictureFile(digest), MOST_PICTURE_BYTES);
    if (!png.ok) return png;
    const before = known.get(digest);
    if (before && before.sha256 === sha256Of(png.value)) return done({ digest, size: before.size, png: png.value });
    const picture = await readPicture(png.value, null, 'packed');
    if (!picture.ok) return refused(`The picture ${digest.slice(0, 12)}… in it can’t be read: ${picture.reason}`);
    return picture.value.digest === digest
      ? picture
      : refused(`The picture ${digest.slice(0, 12)}… in it has other pixels than its name says.`);
  }

  originalBytes(digest: string): number {
    return this.files.get(`originals/${digest}`)?.uncompressedSize ?? 0;
  }

  /** The changes the project was made by, up to its revision; none where they are not in it. A refusal is the last. */
  async *changes(): AsyncGenerator<Outcome<StoredChange>> {
    const { journal, revision } = this.facts;
    if (journal) yield* changesIn(this.parts(JOURNAL), journal.entries, revision);
  }

  /** A file that was brought in, part by part. Throws where it is broken. */
  original(digest: string): AsyncGenerator<Uint8Array> {
    return this.parts(`originals/${digest}`);
  }

  private async *parts(name: string): AsyncGenerator<Uint8Array> {
    const entry = this.files.get(name);
    if (!entry) return;
    const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
    const read = entry.getData(writable, { checkSignature: true });
    read.catch(() => undefined);
    yield* readable as unknown as AsyncIterable<Uint8Array>;
    await read;
  }

  /** Holds a file against its digest. */
  async checkOriginal(digest: string): Promise<Outcome<null>> {
    if (this.originalBytes(digest) > MOST_ORIGINAL_BYTES)
      return refused(`A file in it has more than ${MOST_ORIGINAL_BYTES / MEBIBYTE} MiB.`);
    const hash = createHash('sha256');
    try {
      for await (const part of this.original(digest)) hash.update(part);
    } catch {
      return refused(`The file ${digest.slice(0, 12)}… in it is broken.`);
    }
    return hash.digest('hex') === digest
      ? done(null)
      : refused(`The file ${digest.slice(0, 12)}… in it has other bytes than its name says.`);
  }
}

async function readFacts(files: ReadonlyMap<string, FileEntry>): Promise<{ facts: PackageFacts; project: Project }> {
  const entry = files.get(FACTS_FILE);
  if (!entry) return bad(NO_FACTS);
  const size = checkFactsBytes(entry.uncompressedSize);
  if (!size.ok) return bad(size.reason);
  const bytes = await entry.getData(new Uint8ArrayWriter(), { checkSignature: true }).catch(() => bad('Its project.json is broken.'));
  const read = readPackageFacts(bytes);
  return read.ok ? read.value : bad(read.reason);
}
