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

/** A number of bytes as people say it: `412 kB`, `1.93 MB`; rounded up, so that it is never said to be less. */
export const bytesText = (bytes: number): string =>
  bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(Math.ceil(bytes / 10_000) / 100).toFixed(2)} MB`;
