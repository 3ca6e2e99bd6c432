import { BlobReader, BlobWriter, type FileEntry, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import type { AtHand } from '@/workers/render/atHand';

/** The pictures and originals in a package's file, each unpacked when it is asked for. */
export async function packedFiles(file: Blob): Promise<AtHand> {
  const entries = await new ZipReader(new BlobReader(file), { useWebWorkers: false }).getEntries();
  const byName = new Map(entries.flatMap((entry): [string, FileEntry][] => (entry.directory ? [] : [[entry.filename, entry]])));
  const originals = new Map<string, Promise<Blob>>();
  return {
    picture: async (digest) =>
      (await byName.get(`pictures/${digest}.png`)?.getData(new Uint8ArrayWriter(), { checkSignature: true })) ?? null,
    original: async (digest) => {
      const entry = byName.get(`originals/${digest}`);
      if (!entry) return null;
      const blob = originals.get(digest) ?? entry.getData(new BlobWriter(), { checkSignature: true });
      originals.set(digest, blob);
      return blob;
    },
  };
}
