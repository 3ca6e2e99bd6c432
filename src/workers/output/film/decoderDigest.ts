import { digestOfBytes } from '@/core/raster/digest';

const NONE = new Uint8Array(0);

function bytesOf(description: AllowSharedBufferSource | undefined): Uint8Array {
  if (!description) return NONE;
  return ArrayBuffer.isView(description)
    ? new Uint8Array(description.buffer, description.byteOffset, description.byteLength)
    : new Uint8Array(description);
}

/**
 * The SHA-256 of how a film's decoder is set up: its codec, size and description. The same packets decode alike only with the
 * same. Where there is a description it says all, and an encoder and a file may name its codec with other flags.
 */
export async function decoderDigest({ codec, codedWidth, codedHeight, description }: VideoDecoderConfig): Promise<string> {
  const bytes = bytesOf(description);
  const named = bytes.byteLength > 0 ? codec.split('.')[0] : codec;
  const words = new TextEncoder().encode(`${named} ${codedWidth} ${codedHeight} `);
  const all = new Uint8Array(words.byteLength + bytes.byteLength);
  all.set(words);
  all.set(bytes, words.byteLength);
  return digestOfBytes(all);
}
