import zlib from 'node:zlib';
import { Uint8ArrayReader, ZipWriter } from '@zip.js/zip.js';
import type { Digest } from '@/core/document/model';
import type { Database } from '@/server/store/database';
import { loadPictures } from '@/server/store/pictures';

/* What leaves as a ZIP that is made while it goes out. */

/** A package on its way: its file's name, about how many bytes it will have, and the bytes. */
export type OutgoingPackage = { readonly fileName: string; readonly aboutBytes: number; readonly bytes: AsyncIterable<Uint8Array> };

const PICTURES_AT_ONCE = 24;

/** Stored pictures one after another. Throws where one vanished meanwhile. */
export async function* picturesInOrder(
  database: Database,
  digests: readonly Digest[],
): AsyncGenerator<{ digest: Digest; png: Uint8Array }> {
  for (let start = 0; start < digests.length; start += PICTURES_AT_ONCE) {
    const part = digests.slice(start, start + PICTURES_AT_ONCE);
    const found = await loadPictures(database, part);
    for (const digest of part) {
      const png = found.get(digest);
      if (!png) throw new Error(`The picture ${digest} vanished while it was packed.`);
      yield { digest, png };
    }
  }
}

/** Node.js has it from version 20.15 on. */
const crc32: ((bytes: Uint8Array) => number) | undefined = zlib.crc32;

/**
 * Adds what is packed already as it is. Its check sum is the machine's own where there is one: the library would lead the bytes through
 * streams for it, which takes half as long again as all the rest.
 */
export async function addPacked(zip: ZipWriter<unknown>, name: string, bytes: Uint8Array, lastModDate: Date): Promise<void> {
  const summed = crc32 && { passThrough: true, compressionMethod: 0, uncompressedSize: bytes.byteLength, signature: crc32(bytes) };
  await zip.add(name, new Uint8ArrayReader(bytes), { lastModDate, level: 0, ...summed });
}

/** What goes out at once: a ZIP is made in parts of a few dozen bytes and up, and each that is sent by itself costs the server and the page the same again. */
const SENT_BYTES = 256 * 1024;

/** A ZIP that `fill` fills, part by part as it is read. */
export async function* zipped(fill: (zip: ZipWriter<unknown>) => Promise<void>): AsyncGenerator<Uint8Array> {
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
  const zip = new ZipWriter(writable, { useWebWorkers: false, keepOrder: true });
  const filled = fill(zip).then(() => zip.close());
  // What goes wrong is met where the bytes are read: they end there.
  filled.catch((error: unknown) => writable.abort(error).catch(() => undefined));
  const reader = readable.getReader();
  let parts: Uint8Array[] = [];
  let waitingBytes = 0;
  try {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      parts.push(value);
      waitingBytes += value.byteLength;
      if (waitingBytes < SENT_BYTES) continue;
      yield Buffer.concat(parts);
      [parts, waitingBytes] = [[], 0];
    }
    await filled;
    if (waitingBytes > 0) yield Buffer.concat(parts);
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}
