import { inOne } from '@/core/bytes';

/* Chunks of a RIFF file (RFC 9649): four letters, a length with the lowest byte first, the bytes, and one more where the length is odd. */

export type RiffChunk = { readonly type: string; readonly start: number; readonly end: number };

/** The chunks from a place to another, in order; `isWhole` is false where one goes on past the end. */
export function riffChunks(
  bytes: Uint8Array,
  from: number,
  to: number,
): { readonly chunks: readonly RiffChunk[]; readonly isWhole: boolean } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: RiffChunk[] = [];
  for (let at = from; at + 8 <= to; ) {
    const start = at + 8;
    const end = start + view.getUint32(at + 4, true);
    if (end > to) return { chunks, isWhole: false };
    chunks.push({ type: String.fromCharCode(...bytes.subarray(at, at + 4)), start, end });
    at = end + ((end - start) % 2);
  }
  return { chunks, isWhole: true };
}

export function riffChunk(type: string, data: Uint8Array): Uint8Array {
  const chunk = new Uint8Array(8 + data.byteLength + (data.byteLength % 2));
  for (let index = 0; index < 4; index++) chunk[index] = type.charCodeAt(index);
  new DataView(chunk.buffer).setUint32(4, data.byteLength, true);
  chunk.set(data, 8);
  return chunk;
}

/** A WebP of chunks. */
export function webpOf(chunks: readonly Uint8Array[]): Uint8Array {
  const kind = Uint8Array.from([...'WEBP'].map((letter) => letter.charCodeAt(0)));
  return riffChunk('RIFF', inOne([kind, ...chunks]));
}
