import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
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

/** What goes out at once: a ZIP is made in parts of a few dozen bytes and up, and each that is sent by itself costs the server and the page the same again. */
const SENT_BYTES = 256 * 1024;

/** What can go into a ZIP: bytes, or parts of so many that are read as they go out. */
type Contents = Uint8Array | { readonly parts: AsyncIterable<Uint8Array>; readonly sizeBytes?: number };

/**
 * A ZIP that is read while it is filled. Files are added one after another: each is read as it goes out, so that none waits in memory,
 * and is let go of after.
 */
export class OutgoingZip {
  private readonly zip = new ZipFile();
  private readonly output = this.zip.outputStream as Readable;
  /** Ends the adding that is under way, where nobody reads on. */
  private giveUp: (reason: Error) => void = () => undefined;

  constructor(private readonly madeAt: Date) {
    this.zip.on('error', (error: Error) => this.output.destroy(error));
    this.output.on('close', () => this.giveUp(new Error('Nobody reads the ZIP any more.')));
  }

  /** Adds a file and packs it. */
  addText(name: string, text: string): Promise<void> {
    return this.add(name, new TextEncoder().encode(text), true);
  }

  /** Adds a file that is read as it goes out, and packs it. */
  addParts(name: string, parts: AsyncIterable<Uint8Array>): Promise<void> {
    return this.add(name, { parts }, true);
  }

  /** Adds a file that is packed already as it is. */
  addPacked(name: string, contents: Contents): Promise<void> {
    return this.add(name, contents, false);
  }

  private add(name: string, contents: Contents, compress: boolean): Promise<void> {
    const { sizeBytes } = contents instanceof Uint8Array ? { sizeBytes: contents.byteLength } : contents;
    const size = sizeBytes === undefined ? {} : { size: sizeBytes };
    return new Promise((resolve, reject) => {
      this.giveUp = reject;
      if (this.output.destroyed) return reject(new Error('Nobody reads the ZIP any more.'));
      this.zip.addReadStreamLazy(name, { compress, mtime: this.madeAt, ...size }, (take) => {
        const source = Readable.from(contents instanceof Uint8Array ? [contents] : contents.parts, { objectMode: false });
        source.on('error', reject).on('end', resolve);
        take(null, source);
      });
    });
  }

  /** The bytes of what `fill` adds, in large parts. Throws what `fill` throws. */
  async *filledBy(fill: (zip: OutgoingZip) => Promise<void>): AsyncGenerator<Uint8Array> {
    // What goes wrong is met where the bytes are read: they end there.
    fill(this).then(
      () => this.zip.end(),
      (error: unknown) => this.output.destroy(error instanceof Error ? error : new Error(String(error))),
    );
    let parts: Uint8Array[] = [];
    let waitingBytes = 0;
    for await (const part of this.output as AsyncIterable<Uint8Array>) {
      parts.push(part);
      waitingBytes += part.byteLength;
      if (waitingBytes < SENT_BYTES) continue;
      yield Buffer.concat(parts);
      [parts, waitingBytes] = [[], 0];
    }
    if (waitingBytes > 0) yield Buffer.concat(parts);
  }
}

/** A ZIP that `fill` fills, part by part as it is read; its files are of the time it was made at. */
export const zipped = (madeAt: Date, fill: (zip: OutgoingZip) => Promise<void>): AsyncGenerator<Uint8Array> =>
  new OutgoingZip(madeAt).filledBy(fill);
