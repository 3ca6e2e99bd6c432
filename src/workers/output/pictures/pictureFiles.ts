import { BlobReader, Uint8ArrayReader, Uint8ArrayWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
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

/** A name as a folder may tell names apart: many take capitals and small letters, and letters with composed marks, as one. */
const sameToFolders = (name: string): string => name.normalize('NFC').toLowerCase();

/** Pictures as files of a folder the person chose. Throws `OutputRefused` when one of the names is there already: nothing was written then. */
export async function folderOfPictures(folder: FileSystemDirectoryHandle, names: readonly string[]): Promise<PictureFiles> {
  const wanted = new Set(names.map(sameToFolders));
  for await (const taken of folder.keys()) {
    if (wanted.has(sameToFolders(taken)))
      throw new OutputRefused(
        `The folder ${folder.name} holds ${taken} already. Nothing was written: choose an empty folder, or another name.`,
      );
  }
  const written = new Set<string>();
  let fileBytes = 0;
  const discard = async () => {
    for (const name of written) await folder.removeEntry(name).catch(() => undefined);
  };
  return {
    async add(name, bytes) {
      const handle = await folder.getFileHandle(name, { create: true });
      written.add(name);
      const stream = await handle.createWritable();
      await stream.write(bytes as Uint8Array<ArrayBuffer>);
      await stream.close();
      fileBytes += bytes.byteLength;
    },
    discard,
    async finish() {
      const there: string[] = [];
      for await (const name of folder.keys()) if (written.has(name)) there.push(name);
      return {
        storedAs: null,
        file: null,
        fileBytes,
        close: async () => undefined,
        discard,
        source: {
          kind: 'files',
          names: there,
          read: async (name) => new Uint8Array(await (await (await folder.getFileHandle(name)).getFile()).arrayBuffer()),
        },
      };
    },
  };
}
