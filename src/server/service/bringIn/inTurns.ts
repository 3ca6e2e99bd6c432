import { createHash } from 'node:crypto';
import { availableParallelism } from 'node:os';
import PQueue from 'p-queue';
import type { Digest, Size } from '@/core/document/model';

/*
 * Work on large pictures that leaves room for others: a slice at a time, and whoever else waits is answered
 * in between. Of files that are unpacked, one has its turn after another, so that their memory doesn't add up.
 */

/** A slice of pixels that is worked on at once: four bytes each. */
const SLICE_BYTES = 4 * 1024 * 1024;
const MOST_COPIED_BYTES = 32 * 1024 * 1024;

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
  // A small picture is hashed beside everything else; a large one would be copied whole for that.
  if (canonicalRgba.byteLength <= MOST_COPIED_BYTES)
    return Buffer.from(
      await crypto.subtle.digest(
        'SHA-256',
        Buffer.concat([head, new Uint8Array(canonicalRgba.buffer, canonicalRgba.byteOffset, canonicalRgba.byteLength)]),
      ),
    ).toString('hex');
  const hash = createHash('sha256').update(head);
  await inSlices(canonicalRgba, (slice) => hash.update(slice));
  return hash.digest('hex');
}

/**
 * One queue for what is drawn and sent, another for files that are brought in, so that no stroke waits for a file; and one for the
 * pictures of packages, which are many and mostly small: so many at once that no processor waits while another decodes.
 */
const queues = {
  drawn: new PQueue({ concurrency: 1 }),
  brought: new PQueue({ concurrency: 1 }),
  packed: new PQueue({ concurrency: Math.min(4, availableParallelism()) }),
};
export type Queue = keyof typeof queues;

/** Has work done when its turn in its queue comes. */
export const inTurn = <T>(queue: Queue, work: () => Promise<T>): Promise<T> => queues[queue].add(work);

/** What `work` makes of each of a list, in order, begun for so many ahead of the one that is waited for. */
export async function* ahead<In, Out>(list: readonly In[], most: number, work: (item: In) => Promise<Out>): AsyncGenerator<Out> {
  const coming: Promise<Out>[] = [];
  let next = 0;
  try {
    while (next < list.length || coming.length > 0) {
      while (coming.length < most && next < list.length) {
        const begun = work(list[next++] as In);
        // One that fails is met when its turn comes.
        begun.catch(() => undefined);
        coming.push(begun);
      }
      yield await (coming.shift() as Promise<Out>);
    }
  } finally {
    // Whoever stops in between closes what is being read: what was begun is waited for.
    await Promise.allSettled(coming);
  }
}
