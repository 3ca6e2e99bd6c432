import { BlobReader, Uint8ArrayReader, Uint8ArrayWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { sameName } from '@/core/output/names';
import { OutputRefused, type WrittenOutput } from '@/workers/output/outputFormat';
import { createOwnFile } from '@/workers/output/ownFile';

/** Where numbered pictures go: files are added one by one; what is written then reads from what really lies there. */
export type PictureFiles = {
  readonly add: (name: string, bytes: Uint8Array) => Promise<void>;
  readonly finish: () => Promise<WrittenOutput>;
  /** Removes everything that was written. */
  readonly discard: () => Promise<void>;
};

/** What is written at once: a file in a ZIP comes in many small pieces. */
const BLOCK_BYTES = 256 * 1024;

/** Takes bytes in order and writes them by blocks, the last when it is closed. */
function inBlocks(write: (position: number, block: Uint8Array) => void): WritableStream<Uint8Array> {
  const block = new Uint8Array(BLOCK_BYTES);
  let [filled, position] = [0, 0];
  const pass = (bytes: Uint8Array) => {
    write(position, bytes);
    position += bytes.byteLength;
  };
  const passBlock = () => {
    if (filled > 0) pass(block.subarray(0, filled));
    filled = 0;
  };
  return new WritableStream({
    write(bytes) {
      if (filled + bytes.byteLength > BLOCK_BYTES) passBlock();
      if (bytes.byteLength > BLOCK_BYTES) return pass(bytes);
      block.set(bytes, filled);
      filled += bytes.byteLength;
    },
    close: passBlock,
  });
}

/** Pictures in one ZIP, stored as they are, since they are packed already. */
export async function zipOfPictures(name: string, owner: string): Promise<PictureFiles> {
  const own = await createOwnFile(name, owner);
  const sink = inBlocks((position, block) => own.write(position, block));
  const writer = new ZipWriter(sink, { level: 0, useWebWorkers: false, keepOrder: true });
  return {
    add: async (entry, bytes) => {
      await writer.add(entry, new Uint8ArrayReader(bytes));
    },
    discard: own.discard,
    async finish() {
      await writer.close();
      const file = await own.finish();
      const reader = new ZipReader(new BlobReader(file), { useWebWorkers: false });
      const entries = new Map((await reader.getEntries()).map((entry) => [entry.filename, entry]));
      return {
        storedAs: own.storedAs,
        file,
        fileBytes: file.size,
        decoded: null,
        close: () => reader.close(),
        discard: own.discard,
        source: {
          kind: 'files',
          names: [...entries.keys()],
          async read(entryName) {
            const entry = entries.get(entryName);
            if (!entry || entry.directory) throw new Error(`${entryName} is not in the written ZIP.`);
            return entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
          },
        },
      };
    },
  };
}

/** A folder of a folder, by its path; made where it isn't there and `create` says so, else null. */
async function folderAt(
  root: FileSystemDirectoryHandle,
  path: readonly string[],
  create: boolean,
): Promise<FileSystemDirectoryHandle | null> {
  let folder = root;
  for (const name of path) {
    try {
      folder = await folder.getDirectoryHandle(name, { create });
    } catch (error) {
      if (!create && error instanceof DOMException && error.name === 'NotFoundError') return null;
      throw error;
    }
  }
  return folder;
}

const partsOf = (path: string): { readonly folders: readonly string[]; readonly name: string } => {
  const parts = path.split('/');
  return { folders: parts.slice(0, -1), name: parts.at(-1) ?? '' };
};

/** The paths of files by the folder they go into. */
function byFolder(paths: readonly string[]): ReadonlyMap<string, ReadonlySet<string>> {
  const folders = new Map<string, Set<string>>();
  for (const path of paths) {
    const { folders: within, name } = partsOf(path);
    const key = within.join('/');
    const names = folders.get(key) ?? new Set();
    names.add(sameName(name));
    folders.set(key, names);
  }
  return folders;
}

/** Throws `OutputRefused` when one of the names is there already. */
async function refuseTaken(root: FileSystemDirectoryHandle, paths: readonly string[]): Promise<void> {
  for (const [path, names] of byFolder(paths)) {
    const folder = await folderAt(root, path === '' ? [] : path.split('/'), false);
    if (!folder) continue;
    for await (const taken of folder.keys()) {
      if (names.has(sameName(taken)))
        throw new OutputRefused(
          `The folder ${folder.name} holds ${taken} already. Nothing was written: choose an empty folder, or another name.`,
        );
    }
  }
}

/** What lies under a name in a folder: nothing, something that was begun and is empty still, the very bytes, or something else. */
async function lyingThere(
  folder: FileSystemDirectoryHandle | null,
  name: string,
  bytes: Uint8Array,
): Promise<'nothing' | 'begun' | 'same' | 'other'> {
  let handle: FileSystemFileHandle | undefined;
  try {
    handle = await folder?.getFileHandle(name);
  } catch (error) {
    // What can't be looked at may be there: only what is surely absent is nothing.
    if (!(error instanceof DOMException && error.name === 'NotFoundError')) throw error;
  }
  if (!handle) return 'nothing';
  const file = await handle.getFile();
  if (file.size === 0) return 'begun';
  if (file.size !== bytes.byteLength) return 'other';
  const there = new Uint8Array(await file.arrayBuffer());
  return there.every((byte, at) => byte === bytes[at]) ? 'same' : 'other';
}

/** Picture files in a folder the person chose, and in folders of it. */
class FolderFiles implements PictureFiles {
  /** What was written here, and what of it was not there before: that alone may be taken away again. */
  private readonly written: string[] = [];
  private readonly made: string[] = [];
  private fileBytes = 0;

  constructor(
    private readonly root: FileSystemDirectoryHandle,
    private readonly wasBegun: boolean,
  ) {}

  private async handleOf(path: string, create: boolean): Promise<FileSystemFileHandle> {
    const { folders, name } = partsOf(path);
    const folder = await folderAt(this.root, folders, create);
    if (!folder) throw new OutputRefused(`The folder ${folders.join('/')} is gone: it was taken away while it was written to.`);
    return folder.getFileHandle(name, { create });
  }

  add = async (path: string, bytes: Uint8Array): Promise<void> => {
    const { folders, name } = partsOf(path);
    const there = this.wasBegun ? await lyingThere(await folderAt(this.root, folders, false), name, bytes) : 'nothing';
    if (there === 'other')
      throw new OutputRefused(`The folder ${this.root.name} holds another ${path} already. It was left as it is: choose another folder.`);
    this.written.push(path);
    this.fileBytes += bytes.byteLength;
    if (there === 'same') return;
    const handle = await this.handleOf(path, true);
    this.made.push(path);
    const stream = await handle.createWritable();
    await stream.write(bytes as Uint8Array<ArrayBuffer>);
    await stream.close();
  };

  private async remove(path: string): Promise<void> {
    const { folders, name } = partsOf(path);
    const folder = await folderAt(this.root, folders, false).catch(() => null);
    await folder?.removeEntry(name).catch(() => undefined);
  }

  discard = async (): Promise<void> => {
    for (const path of this.made) await this.remove(path);
    // Folders that were made for them go, the innermost first; one that holds anything else stays.
    const folders = new Set(this.made.flatMap((path) => partsOf(path).folders.map((_, depth, all) => all.slice(0, depth + 1).join('/'))));
    for (const path of [...folders].toSorted((a, b) => b.length - a.length)) await this.remove(path);
  };

  finish = async (): Promise<WrittenOutput> => {
    const names: string[] = [];
    for (const path of this.written) if (await this.handleOf(path, false).catch(() => null)) names.push(path);
    return {
      storedAs: null,
      file: null,
      fileBytes: this.fileBytes,
      decoded: null,
      close: async () => undefined,
      discard: this.discard,
      source: {
        kind: 'files',
        names,
        read: async (path) => new Uint8Array(await (await (await this.handleOf(path, false)).getFile()).arrayBuffer()),
      },
    };
  };
}

/**
 * Pictures as files of a folder the person chose, and of folders in it. Throws `OutputRefused` when one of the names is there
 * already: nothing was written then. Where a page that was left had begun with it, what lies there and is the very same stays.
 */
export async function folderOfPictures(root: FileSystemDirectoryHandle, names: readonly string[], wasBegun = false): Promise<PictureFiles> {
  if (!wasBegun) await refuseTaken(root, names);
  return new FolderFiles(root, wasBegun);
}
