/*
 * Files are written to the browser's private folder first, so that a film of any length needs little
 * memory and what is counted is the very file that is then saved.
 */

const FOLDER = 'handovers';

async function ownFolder(): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle(FOLDER, { create: true });
}

/** A file being written in the browser's private folder, at any position. */
export type OwnFile = {
  readonly storedAs: string;
  readonly stream: WritableStream<{ data: Uint8Array; position: number }>;
  /** Bytes that were written, from one place (inclusive) to another (exclusive), as far as there are any; and others in their place. */
  readonly read: (from: number, to: number) => Uint8Array;
  readonly write: (position: number, bytes: Uint8Array) => void;
  /** Ends writing; gives the file as it was written. */
  readonly finish: () => Promise<File>;
  /** Ends writing and removes the file. */
  readonly discard: () => Promise<void>;
};

/** Starts a file; its stored name begins with whoever owns it and is made unique, its shown name is for whoever saves it. */
export async function createOwnFile(name: string, owner: string): Promise<OwnFile> {
  const folder = await ownFolder();
  const storedAs = `${owner}.${crypto.randomUUID()}.${name}`;
  const handle = await folder.getFileHandle(storedAs, { create: true });
  const access = await handle.createSyncAccessHandle();
  let open = true;
  const close = () => {
    if (open) access.close();
    open = false;
  };
  const stream = new WritableStream<{ data: Uint8Array; position: number }>({
    write({ data, position }) {
      access.write(data as Uint8Array<ArrayBuffer>, { at: position });
    },
  });
  return {
    storedAs,
    stream,
    read(from, to) {
      const room = new Uint8Array(Math.max(0, Math.min(to, access.getSize()) - from));
      access.read(room, { at: from });
      return room;
    },
    write(position, bytes) {
      access.write(bytes as Uint8Array<ArrayBuffer>, { at: position });
    },
    async finish() {
      access.flush();
      close();
      return handle.getFile();
    },
    async discard() {
      close();
      await folder.removeEntry(storedAs).catch(() => undefined);
    },
  };
}
