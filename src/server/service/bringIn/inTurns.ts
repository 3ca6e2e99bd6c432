import { createHash } from 'node:crypto';
import type { Digest, Size } from '@/core/document/model';

/*
 * Work on large pictures that leaves room for others: a slice at a time, and whoever else waits is answered
 * in between. Of files that are unpacked, one has its turn after another, so that their memory doesn't add up.
 */

/** A slice of pixels that is worked on at once: four bytes each. */
const SLICE_BYTES = 4 * 1024 * 1024;

const others = () => new Promise<void>((resolve) => setImmediate(resolve));

/** Has work done on pixels (RGBA) slice by slice; every slice is whole pixels. */
export async function inSlices(rgba: Uint8Array | Uint8ClampedArray, work: (slice: Uint8Array) => void): Promise<void> {
  for (let start = 0; start < rgba.byteLength; start += SLICE_BYTES) {
    work(new Uint8Array(rgba.buffer, rgba.byteOffset + start, Math.min(SLICE_BYTES, rgba.byteLength - start)));
    await others();
  }
}

/** The digest of canonical pixels, as `@/core/raster/digest` defines it. */
export async function digestInTurns({ width, height }: Size, canonicalRgba: Uint8Array | Uint8ClampedArray): Promise<Digest> {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  const hash = createHash('sha256').update(head);
  await inSlices(canonicalRgba, (slice) => hash.update(slice));
  return hash.digest('hex');
}

/** One queue for what is drawn and sent, another for files that are brought in, so that no stroke waits for a file. */
const queues = { drawn: Promise.resolve<unknown>(undefined), brought: Promise.resolve<unknown>(undefined) };

/** Has work done when all that was asked for before in its queue is done. */
export function inTurn<T>(queue: keyof typeof queues, work: () => Promise<T>): Promise<T> {
  const turn = queues[queue].then(work);
  queues[queue] = turn.catch(() => undefined);
  return turn;
}
