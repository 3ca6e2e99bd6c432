import type { Size } from '@/core/document/model';
import { checkSize, LARGEST_PICTURE_BYTES } from '@/core/document/size';
import { type Outcome, refused } from '@/core/outcome';

/** First eight bytes of every PNG (W3C PNG Third Edition, 5.2). */
const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10];
const IHDR = [73, 72, 68, 82];

/**
 * The size a PNG says it has, read from its IHDR chunk (W3C PNG Third Edition, 11.2.1) before anything
 * is unpacked. Refuses bytes that are no PNG, files over LARGEST_PICTURE_BYTES and sides out of range.
 */
export function readPngSize(bytes: Uint8Array): Outcome<Size> {
  if (bytes.byteLength > LARGEST_PICTURE_BYTES) {
    return refused(`The picture has ${(bytes.byteLength / 1024 / 1024).toFixed(1)} MiB; 64 MiB is the most that is taken.`);
  }
  const isPng =
    bytes.byteLength >= 33 &&
    SIGNATURE.every((value, index) => bytes[index] === value) &&
    IHDR.every((value, index) => bytes[12 + index] === value);
  if (!isPng) return refused(`These ${bytes.byteLength} bytes are not a PNG picture.`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return checkSize(view.getUint32(16), view.getUint32(20));
}

/** Where the header says the depth and, after it, the colour type (W3C PNG Third Edition, 11.2.1). */
const DEPTH_AT = 24;

/** Whether a PNG says that it has samples of 8 bits, of colours with transparency or without, and no palette. */
export const isOfByteSamples = (bytes: Uint8Array): boolean =>
  bytes[DEPTH_AT] === 8 && (bytes[DEPTH_AT + 1] === 2 || bytes[DEPTH_AT + 1] === 6);
