import { createHash, randomUUID } from 'node:crypto';
import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Answer } from '@/server/service/answer';
import { fileBytes } from '@/server/service/fileBytes';

/** A file that was received: it lies on the disk until it is removed, and is known by the SHA-256 of its bytes. */
export type ReceivedFile = {
  readonly name: string;
  readonly path: string;
  readonly sizeBytes: number;
  readonly digest: string;
};

const MEBIBYTE = 1024 * 1024;

/** Largest file of a kind that is brought in. A recording may be twenty minutes of stereo, each sample of four bytes. */
export const LARGEST_BYTES = { picture: 64 * MEBIBYTE, recording: 512 * MEBIBYTE, clip: 4096 * MEBIBYTE } as const;

const mebibytes = (bytes: number) => `${Math.round(bytes / MEBIBYTE)} MiB`;

/**
 * Receives a file onto the disk as it comes, so that none is ever held whole in memory, and refuses it as soon
 * as it is too large. `use` has it for as long as it takes; after that it is removed.
 */
export async function receiveFile<T>(
  name: string,
  body: ReadableStream<Uint8Array> | null,
  kind: keyof typeof LARGEST_BYTES,
  use: (file: ReceivedFile) => Promise<Answer<T>>,
  /** How many bytes whoever sends it says it has; null when that isn't said. */
  saidBytes: number | null = null,
): Promise<Answer<T>> {
  const filePath = path.join(tmpdir(), `lime-tick-${randomUUID()}`);
  const hash = createHash('sha256');
  let sizeBytes = 0;
  try {
    const file = await open(filePath, 'wx');
    try {
      // Read to the end of it even where it is refused on the way, so that whoever sends it hears why.
      for await (const chunk of body ?? []) {
        sizeBytes += chunk.byteLength;
        if (sizeBytes > LARGEST_BYTES[kind]) continue;
        hash.update(chunk);
        await file.write(chunk);
      }
    } finally {
      await file.close();
    }
    if (sizeBytes > LARGEST_BYTES[kind])
      return {
        ok: false,
        status: 413,
        error: `${name} is larger than ${mebibytes(LARGEST_BYTES[kind])}, which is the most a ${kind} may have.`,
      };
    if (saidBytes !== null && sizeBytes !== saidBytes)
      return { ok: false, status: 400, error: `${name} didn’t arrive whole: ${sizeBytes} of ${saidBytes} bytes came. Bring it in again.` };
    return await use({ name, path: filePath, sizeBytes, digest: hash.digest('hex') });
  } finally {
    await rm(filePath, { force: true });
  }
}

/** A received file's bytes as they are asked for. */
export const readReceived = (file: ReceivedFile): AsyncIterable<Uint8Array> => fileBytes(file.path);
