import { type ReadFrame, type ReadPicture, Undecodable } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import type { ReadingLine } from '@/core/output/outsideFilm';
import { digestOfStream } from '@/workers/output/fileDigest';
import { framesAt } from '@/workers/output/film/outsideCalls';

/** Bytes from base64. */
const bytesOf = (text: string): Uint8Array => Uint8Array.from(atob(text), (character) => character.charCodeAt(0));

function pictureOf({ fingerprint, signature }: Extract<ReadingLine, { kind: 'frame' }>, size: Size): ReadPicture {
  const near = signature === null ? null : bytesOf(signature);
  if (fingerprint !== null) return { kind: 'exact', fingerprint, size, ...(near ? { signature: near } : {}) };
  if (near) return { kind: 'near', signature: near, size };
  throw new Undecodable('a frame came without its picture');
}

/** Frames that this browser can't decode, decoded where a copy of the very same file lies. Throws `Undecodable` where it isn't the same, or can't be decoded there. */
export async function* outsideFrames(file: Blob, copyAt: string, size: Size, stop: AbortSignal): AsyncGenerator<ReadFrame> {
  try {
    for await (const line of framesAt(copyAt, stop)) {
      if (line.kind === 'failed') throw new Error(line.reason);
      if (line.kind === 'file' && line.digest !== (await digestOfStream(file))) throw new Error('the file is not the one on the server');
      if (line.kind === 'frame') yield { name: null, picture: pictureOf(line, size), digest: null };
      if (line.kind === 'end') return;
    }
    throw new Error('the server stopped in the middle of it');
  } catch (error) {
    if (stop.aborted) throw error;
    throw error instanceof Undecodable ? error : new Undecodable(error instanceof Error ? error.message : 'the server gave no reason');
  }
}
