import { createSHA256 } from 'hash-wasm';

/** SHA-256 of a file, read piece by piece. */
export async function digestOfStream(file: Blob): Promise<string> {
  const hash = await createSHA256();
  hash.init();
  const reader = file.stream().getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return hash.digest('hex');
    hash.update(value);
  }
}
