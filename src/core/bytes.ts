/** Parts one after another. */
export function inOne(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.byteLength, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.byteLength;
  }
  return all;
}

const WORD_BYTES = 4;

/** Whether two runs of bytes are the same; by words where both begin and end with one, which is several times as quick. */
export function isSame(one: Uint8Array, other: Uint8Array): boolean {
  if (one.length !== other.length) return false;
  if ([one.byteOffset, other.byteOffset, one.length].every((at) => at % WORD_BYTES === 0)) {
    const words = one.length / WORD_BYTES;
    const [a, b] = [new Uint32Array(one.buffer, one.byteOffset, words), new Uint32Array(other.buffer, other.byteOffset, words)];
    for (let at = 0; at < words; at++) if (a[at] !== b[at]) return false;
    return true;
  }
  for (let at = 0; at < one.length; at++) if (one[at] !== other[at]) return false;
  return true;
}

const hundredths = (bytes: number, unit: number): string => (Math.ceil((bytes * 100) / unit) / 100).toFixed(2);

/** A number of bytes as people say it: `412 kB`, `1.93 MB`, `52.98 GB`; rounded up, so that it is never said to be less. */
export function bytesText(bytes: number): string {
  if (bytes < 1_000_000) return `${Math.ceil(bytes / 1000)} kB`;
  return bytes < 1_000_000_000 ? `${hundredths(bytes, 1_000_000)} MB` : `${hundredths(bytes, 1_000_000_000)} GB`;
}

/** Pieces of so many bytes from a stream of them, each in memory of its own; what is left over at the end is dropped. */
export async function* piecesOf(stream: AsyncIterable<Uint8Array>, bytes: number): AsyncGenerator<Uint8Array> {
  let piece = new Uint8Array(bytes);
  let filled = 0;
  for await (const chunk of stream) {
    for (let from = 0; from < chunk.byteLength; ) {
      const taken = Math.min(bytes - filled, chunk.byteLength - from);
      piece.set(chunk.subarray(from, from + taken), filled);
      filled += taken;
      from += taken;
      if (filled < bytes) continue;
      yield piece;
      piece = new Uint8Array(bytes);
      filled = 0;
    }
  }
}
