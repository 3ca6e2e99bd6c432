import { pngChunks } from '@/core/format/png/chunks';

/*
 * Whether a file ends before what it says it holds. Many decoders read such a file as far as it goes and say
 * nothing of the rest, so the frame of the file is looked at, and nothing of what it holds is decoded.
 *
 * Sources: GIF89a, clauses 18–27 (blocks, trailer 0x3B); RIFF as used by WAV and by the WebP container
 * specification (a chunk's length in little-endian bytes after its name); W3C PNG Third Edition, 5.3 (IEND
 * ends it); ISO/IEC 14496-12, 4.2 (a box's size); RFC 3533, 6 (the last page of an Ogg stream has flag 4);
 * JPEG, ITU-T T.81, B.1.1.3 (EOI ends it).
 */

const text = (bytes: Uint8Array, at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length));

function gifIsCut(bytes: Uint8Array): boolean {
  if (bytes.byteLength < 13) return true;
  const tableBytes = (packed: number) => (packed & 0x80 ? 3 * 2 ** ((packed & 7) + 1) : 0);
  const afterSubBlocks = (start: number): number => {
    let at = start;
    while (at < bytes.byteLength) {
      const length = bytes[at] as number;
      at += 1 + length;
      if (length === 0) return at;
    }
    return bytes.byteLength;
  };
  let at = 13 + tableBytes(bytes[10] as number);
  while (at < bytes.byteLength) {
    const block = bytes[at];
    if (block === 0x3b) return false;
    if (block === 0x21) at = afterSubBlocks(at + 2);
    else if (block === 0x2c) at = afterSubBlocks(at + 10 + tableBytes(bytes[at + 9] ?? 0) + 1);
    else return true;
  }
  return true;
}

/** Lengths that say a writer didn't know: it was streaming. */
const UNKNOWN_LENGTHS = new Set([0, 0xffffffff]);

/** A chunk of a RIFF file that reaches past the file's end; `sizeBytes` is the whole file's, of which `head` is the beginning. */
function riffIsCut(head: Uint8Array, sizeBytes: number): boolean {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  if (text(head, 0, 4) === 'RF64') return false;
  const whole = view.getUint32(4, true);
  const isWave = text(head, 8, 4) === 'WAVE';
  for (let at = 12; at + 8 <= head.byteLength; ) {
    const length = view.getUint32(at + 4, true);
    const isData = text(head, at, 4) === 'data';
    if (isData && UNKNOWN_LENGTHS.has(length)) return false;
    if (at + 8 + length > sizeBytes) return true;
    if (isData) return false;
    at += 8 + length + (length & 1);
  }
  return !isWave && !UNKNOWN_LENGTHS.has(whole) && whole + 8 > sizeBytes;
}

/** A box of an ISO base media file that reaches past the file's end, or a file without its `moov`. */
function boxesAreCut(head: Uint8Array, sizeBytes: number): boolean {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  for (let at = 0; at + 16 <= head.byteLength; ) {
    const small = view.getUint32(at);
    const length = small === 1 ? Number(view.getBigUint64(at + 8)) : small;
    if (length === 0) return false;
    if (length < 8) return true;
    if (at + length > sizeBytes) return true;
    at += length;
  }
  return false;
}

function oggIsCut(tail: Uint8Array): boolean {
  for (let at = tail.byteLength - 27; at >= 0; at--)
    if (tail[at] === 0x4f && text(tail, at, 4) === 'OggS') return ((tail[at + 5] as number) & 4) === 0;
  return true;
}

/** How much of a file's beginning and end is looked at. */
export const LOOKED_AT_BYTES = 1024 * 1024;

/**
 * Whether a file is cut short, by its beginning and its end (each LOOKED_AT_BYTES, or all of it when it is
 * smaller); false for kinds that don't say how long they are.
 */
export function isCutShort(head: Uint8Array, tail: Uint8Array, sizeBytes: number): boolean {
  if (head.byteLength < 16) return false;
  if (/^GIF8[79]a$/.test(text(head, 0, 6))) return head.byteLength === sizeBytes ? gifIsCut(head) : tail.at(-1) !== 0x3b;
  if (['RIFF', 'RF64'].includes(text(head, 0, 4))) return riffIsCut(head, sizeBytes);
  if (text(head, 4, 4) === 'ftyp') return boxesAreCut(head, sizeBytes);
  if (text(head, 0, 4) === 'OggS') return oggIsCut(tail);
  if (head[0] === 0x89 && text(head, 1, 3) === 'PNG')
    return head.byteLength === sizeBytes ? !pngChunks(head).isWhole : text(tail, tail.byteLength - 8, 4) !== 'IEND';
  return false;
}
