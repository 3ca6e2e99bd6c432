import type { Size } from '@/core/document/model';
import { checkSize } from '@/core/document/size';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * TIFF Revision 6.0 (1992), a baseline RGB picture in one strip, little-endian: header, the strip, then the directory. Its pixels
 * are packed as zlib (compression 8, the number most readers know for it: common practice) by whoever calls. A fourth sample is
 * told by ExtraSamples: 1 multiplied into the colours ("associated"), 2 straight ("unassociated").
 */

const TAGS = {
  width: 256,
  height: 257,
  bits: 258,
  compression: 259,
  photometric: 262,
  stripOffset: 273,
  samples: 277,
  rowsPerStrip: 278,
  stripBytes: 279,
  planar: 284,
  extraSamples: 338,
} as const;
const SHORT = 3;
const LONG = 4;
const RGB = 2;
const DEFLATE = 8;
const EXTRA = { premultiplied: 1, straight: 2 } as const;

/** What a strip of a TIFF holds: pixels of three samples, or four with transparency. */
export type TiffAlpha = 'none' | keyof typeof EXTRA;

/** A TIFF whose one strip holds zlib-packed pixels: RGB, or RGBA where there is transparency. */
export function writeTiff(width: number, height: number, packed: Uint8Array, alpha: TiffAlpha): Uint8Array {
  const samples = alpha === 'none' ? 3 : 4;
  const stripAt = 8;
  const bitsAt = stripAt + packed.length + (packed.length % 2);
  const directoryAt = bitsAt + samples * 2;
  const entries: (readonly [tag: number, type: number, count: number, value: number])[] = [
    [TAGS.width, LONG, 1, width],
    [TAGS.height, LONG, 1, height],
    [TAGS.bits, SHORT, samples, bitsAt],
    [TAGS.compression, SHORT, 1, DEFLATE],
    [TAGS.photometric, SHORT, 1, RGB],
    [TAGS.stripOffset, LONG, 1, stripAt],
    [TAGS.samples, SHORT, 1, samples],
    [TAGS.rowsPerStrip, LONG, 1, height],
    [TAGS.stripBytes, LONG, 1, packed.length],
    [TAGS.planar, SHORT, 1, 1],
  ];
  if (alpha !== 'none') entries.push([TAGS.extraSamples, SHORT, 1, EXTRA[alpha]]);
  const bytes = new Uint8Array(directoryAt + 2 + entries.length * 12 + 4);
  const view = new DataView(bytes.buffer);
  bytes.set([0x49, 0x49, 42, 0]);
  view.setUint32(4, directoryAt, true);
  bytes.set(packed, stripAt);
  for (let sample = 0; sample < samples; sample++) view.setUint16(bitsAt + sample * 2, 8, true);
  view.setUint16(directoryAt, entries.length, true);
  for (const [index, [tag, type, count, value]] of entries.entries()) {
    const at = directoryAt + 2 + index * 12;
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, type, true);
    view.setUint32(at + 4, count, true);
    if (type === SHORT && count === 1) view.setUint16(at + 8, value, true);
    else view.setUint32(at + 8, value, true);
  }
  return bytes;
}

/** What a TIFF of this kind says of itself, and where its zlib-packed strip lies. */
export type TiffParts = { readonly size: Size; readonly alpha: TiffAlpha; readonly stripStart: number; readonly stripEnd: number };

/** Reads a TIFF of the kind `writeTiff` writes; refuses any other. */
export function readTiff(bytes: Uint8Array): Outcome<TiffParts> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 8 || view.getUint32(0) !== 0x49492a00) return refused('This is not a little-endian TIFF picture.');
  const directoryAt = view.getUint32(4, true);
  if (directoryAt + 2 > bytes.length) return refused('The TIFF picture is broken off.');
  const count = view.getUint16(directoryAt, true);
  if (directoryAt + 2 + count * 12 > bytes.length) return refused('The TIFF picture is broken off.');
  const values = new Map<number, number>();
  for (let index = 0; index < count; index++) {
    const at = directoryAt + 2 + index * 12;
    const isShort = view.getUint16(at + 2, true) === SHORT && view.getUint32(at + 4, true) === 1;
    values.set(view.getUint16(at, true), isShort ? view.getUint16(at + 8, true) : view.getUint32(at + 8, true));
  }
  const value = (tag: keyof typeof TAGS) => values.get(TAGS[tag]) ?? 0;
  const size = checkSize(value('width'), value('height'));
  if (!size.ok) return size;
  const samples = value('samples');
  const isOurs = value('compression') === DEFLATE && value('photometric') === RGB && value('rowsPerStrip') === size.value.height;
  if (!isOurs || (samples !== 3 && samples !== 4)) return refused('This kind of TIFF is not read: RGB in one packed strip is.');
  const stripStart = value('stripOffset');
  const stripEnd = stripStart + value('stripBytes');
  if (stripEnd > bytes.length) return refused('The TIFF picture is broken off.');
  const alpha = samples === 3 ? 'none' : value('extraSamples') === EXTRA.premultiplied ? 'premultiplied' : 'straight';
  return done({ size: size.value, alpha, stripStart, stripEnd });
}
