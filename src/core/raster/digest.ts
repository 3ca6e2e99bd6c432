import { createSHA256, createXXHash128, type IHasher } from 'hash-wasm';
import type { Digest } from '@/core/document/model';

/*
 * A picture's digest is SHA-256 over: width and height as unsigned 32-bit big-endian numbers, then its
 * pixels row by row, four bytes R G B A each with straight alpha. A pixel with alpha 0 has no colour:
 * it is counted as 0 0 0 0, so that two pictures that look alike to the last pixel are one.
 */

/** The digest of canonical pixels; throws when there are not exactly width × height of them. */
export async function digestOfPixels(width: number, height: number, canonicalRgba: Uint8Array | Uint8ClampedArray): Promise<Digest> {
  if (canonicalRgba.byteLength !== width * height * 4)
    throw new Error(`${width} × ${height} pixels are ${width * height * 4} bytes, not ${canonicalRgba.byteLength}.`);
  const all = new Uint8Array(8 + canonicalRgba.byteLength);
  const view = new DataView(all.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  all.set(canonicalRgba, 8);
  return digestOfBytes(all);
}

/** What of Web Cryptography is used; pages whose address browsers don't trust have none. */
type Subtle = { readonly digest: (name: 'SHA-256', bytes: Uint8Array) => Promise<ArrayBuffer> };
const { crypto } = globalThis as unknown as { readonly crypto?: { readonly subtle?: Subtle } };

/** What is smaller is done before the machine's own would have begun, on another thread. */
const LEAST_BYTES_ELSEWHERE = 16_384;

/** One for all: each is done before another begins, and to make one takes longer than what a small one is asked. */
let digester: Promise<IHasher> | undefined;

/** SHA-256 of any bytes or text, as 64 hexadecimal digits. */
export async function digestOfBytes(content: Uint8Array | string): Promise<string> {
  if (crypto?.subtle && typeof content !== 'string' && content.byteLength >= LEAST_BYTES_ELSEWHERE)
    return Array.from(new Uint8Array(await crypto.subtle.digest('SHA-256', content)), (byte) => byte.toString(16).padStart(2, '0')).join(
      '',
    );
  digester ??= createSHA256();
  const hash = await digester;
  return hash.init().update(content).digest('hex');
}

let fingerprinter: Promise<IHasher> | undefined;

/**
 * A fast 128-bit fingerprint of bytes (xxHash, 128 bits), to hold pictures against each other within one run; never stored,
 * since it is no cryptographic digest.
 */
export async function fingerprintOf(bytes: Uint8Array): Promise<string> {
  fingerprinter ??= createXXHash128();
  const hash = await fingerprinter;
  return hash.init().update(bytes).digest('hex');
}
