import { createReadStream } from 'node:fs';

/**
 * The bytes of a file as they are asked for. It is opened with the first of them and not before: one that is opened and never read,
 * since what it holds is known already, may be gone by the time it opens, and an error that nobody listens for ends the process.
 */
export async function* fileBytes(path: string): AsyncGenerator<Uint8Array> {
  for await (const bytes of createReadStream(/* turbopackIgnore: true */ path)) yield bytes as Buffer;
}
