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

/** Pictures in one ZIP, stored as they are, since they are packed already. */
export async function zipOfPictures(name: string, owner: string): Promise<PictureFiles> {
  const own = await createOwnFile(name, owner);
  const positions = own.stream.getWriter();
  let position = 0;
  const sink = new WritableStream<Uint8Array>({
    async write(data) {
      await positions.write({ data, position });
      position += data.byteLength;
    },
  });
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

/** Whether a file holds exactly these bytes. */
async function holds(handle: FileSystemFileHandle, bytes: Uint8Array): Promise<boolean> {
  const file = await handle.getFile();
  if (file.size !== bytes.byteLength) return false;
  const there = new Uint8Array(await file.arrayBuffer());
  return there.every((byte, at) => byte === bytes[at]);
}

/** Pictures as files of a folder the person chose, and of folders in it. Where it was being written before, by a page that was left, files that are there already are left as they are when they are the very same. Throws `OutputRefused` when one of the names is there already: nothing was written then. */
export async function folderOfPictures(root: FileSystemDirectoryHandle, names: readonly string[], wasBegun = false): Promise<PictureFiles> {
  if (!wasBegun) await refuseTaken(root, names);
  const written: string[] = [];
  let fileBytes = 0;
  const handleOf = async (path: string, create: boolean): Promise<FileSystemFileHandle> => {
    const { folders, name } = partsOf(path);
    const folder = await folderAt(root, folders, create);
    if (!folder) throw new OutputRefused(`The folder ${folders.join('/')} is gone: it was taken away while it was written to.`);
    return folder.getFileHandle(name, { create });
  };
  const discard = async () => {
    for (const path of written) {
      const { folders, name } = partsOf(path);
      const folder = await folderAt(root, folders, false).catch(() => null);
      await folder?.removeEntry(name).catch(() => undefined);
    }
    // Folders that were made for them go, the innermost first; one that holds anything else stays.
    const made = [...new Set(written.flatMap((path) => partsOf(path).folders.map((_, depth, all) => all.slice(0, depth + 1).join('/'))))];
    for (const path of made.toSorted((a, b) => b.length - a.length)) {
      const { folders, name } = partsOf(path);
      const folder = await folderAt(root, folders, false).catch(() => null);
      await folder?.removeEntry(name).catch(() => undefined);
    }
  };
  return {
    async add(path, bytes) {
      if (wasBegun) {
        const there = await handleOf(path, false).catch(() => null);
        if (there && !(await holds(there, bytes)))
          throw new OutputRefused(`The folder ${root.name} holds another ${path} already. It was left as it is: choose another folder.`);
        if (there) {
          written.push(path);
          fileBytes += bytes.byteLength;
          return;
        }
      }
      const handle = await handleOf(path, true);
      written.push(path);
      const stream = await handle.createWritable();
      await stream.write(bytes as Uint8Array<ArrayBuffer>);
      await stream.close();
      fileBytes += bytes.byteLength;
    },
    discard,
    async finish() {
      const there: string[] = [];
      for (const path of written) if (await handleOf(path, false).catch(() => null)) there.push(path);
      return {
        storedAs: null,
        file: null,
        fileBytes,
        decoded: null,
        close: async () => undefined,
        discard,
        source: {
          kind: 'files',
          names: there,
          read: async (path) => new Uint8Array(await (await (await handleOf(path, false)).getFile()).arrayBuffer()),
        },
      };
    },
  };
}
