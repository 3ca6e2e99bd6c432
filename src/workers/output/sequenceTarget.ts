import { BlobReader, Uint8ArrayReader, Uint8ArrayWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { createOwnFile } from '@/workers/output/ownFile';

/** A folder holds a file of that name already; nothing was written. */
export class NameTaken extends Error {
  override readonly name = 'NameTaken';
}

/** Where a sequence goes: pictures are added one by one, then read back from what was really written. */
export type SequenceTarget = {
  readonly add: (name: string, bytes: Uint8Array) => Promise<void>;
  /** Ends writing; `read` gives each written file, in the order they were added. */
  readonly finish: () => Promise<WrittenSequence>;
  /** Removes everything that was written. */
  readonly discard: () => Promise<void>;
};

export type WrittenSequence = {
  readonly storedAs: string | null;
  readonly fileBytes: number;
  /** The one file, if it is one. */
  readonly file: File | null;
  /** How many picture files are really there. */
  readonly names: readonly string[];
  readonly read: (name: string) => Promise<Uint8Array>;
  readonly close: () => Promise<void>;
};

/** Pictures in one ZIP, stored as they are, since PNG is packed already. */
export async function zipTarget(name: string, owner: string): Promise<SequenceTarget> {
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
        fileBytes: file.size,
        file,
        names: [...entries.keys()],
        close: () => reader.close(),
        async read(entryName) {
          const entry = entries.get(entryName);
          if (!entry || entry.directory) throw new Error(`${entryName} is not in the written ZIP.`);
          return entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
        },
      };
    },
  };
}

/** Pictures as files of a folder the person chose. Throws NameTaken when one of the names is there already. */
export async function folderTarget(folder: FileSystemDirectoryHandle, names: readonly string[]): Promise<SequenceTarget> {
  const wanted = new Set(names);
  for await (const taken of folder.keys()) {
    if (wanted.has(taken))
      throw new NameTaken(
        `The folder ${folder.name} holds ${taken} already. Nothing was written: choose an empty folder, or another name.`,
      );
  }
  const written: string[] = [];
  let fileBytes = 0;
  return {
    async add(name, bytes) {
      const handle = await folder.getFileHandle(name, { create: true });
      written.push(name);
      const stream = await handle.createWritable();
      await stream.write(bytes as Uint8Array<ArrayBuffer>);
      await stream.close();
      fileBytes += bytes.byteLength;
    },
    async discard() {
      for (const name of written) await folder.removeEntry(name);
    },
    async finish() {
      const there: string[] = [];
      for await (const name of folder.keys()) if (wanted.has(name)) there.push(name);
      return {
        storedAs: null,
        fileBytes,
        file: null,
        names: there,
        close: async () => undefined,
        read: async (name) => new Uint8Array(await (await (await folder.getFileHandle(name)).getFile()).arrayBuffer()),
      };
    },
  };
}
