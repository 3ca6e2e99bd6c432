/** A chunk of a PNG: its type, and where its data lies in the file (W3C PNG Third Edition, 5.3). */
export type PngChunk = { readonly type: string; readonly start: number; readonly end: number };

const SIGNATURE_BYTES = 8;

/** The chunks of a PNG in order, up to IEND or where the file ends; `isWhole` is false when it ends before IEND. */
export function pngChunks(bytes: Uint8Array): { readonly chunks: readonly PngChunk[]; readonly isWhole: boolean } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: PngChunk[] = [];
  for (let at = SIGNATURE_BYTES; at + 12 <= bytes.byteLength; ) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const end = at + 8 + length;
    if (end + 4 > bytes.byteLength) return { chunks, isWhole: false };
    chunks.push({ type, start: at + 8, end });
    if (type === 'IEND') return { chunks, isWhole: true };
    at = end + 4;
  }
  return { chunks, isWhole: false };
}

/** Chunks that change which colours a PNG's samples mean (W3C PNG Third Edition, 11.3.2). */
const COLOUR_CHUNKS = new Set(['iCCP', 'gAMA', 'cHRM', 'cICP']);

/**
 * Whether a PNG says that its samples are anything but plain sRGB. Its stored samples and its colours are two things then:
 * programs disagree about them, and so would we with whoever reads the file.
 */
export const changesColours = (bytes: Uint8Array): boolean => pngChunks(bytes).chunks.some(({ type }) => COLOUR_CHUNKS.has(type));
