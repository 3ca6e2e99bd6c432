import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { checkSize } from '@/core/document/size';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * TIFF Revision 6.0 (1992), a baseline RGB picture in strips, little-endian: header, the strips, what is said of each, then the
 * directory. The pixels of a strip are packed as zlib (compression 8, the number most readers know for it: common practice) by
 * whoever calls. A fourth sample is told by ExtraSamples: 1 multiplied into the colours ("associated"), 2 straight ("unassociated").
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
  predictor: 317,
  extraSamples: 338,
} as const;
const HEADER_BYTES = 8;
const SHORT = 3;
const LONG = 4;
const RGB = 2;
const DEFLATE = 8;
/** Samples of a pixel side by side, and each as it is, not its difference from the one before: both are so where nothing is said. */
const CHUNKY = 1;
const NO_PREDICTOR = 1;
const EXTRA = { premultiplied: 1, straight: 2 } as const;

/** What a strip of a TIFF holds: pixels of three samples, or four with transparency. */
export type TiffAlpha = 'none' | keyof typeof EXTRA;

/** Rows in each strip but the last, which has those that are left. */
export const TIFF_STRIP_ROWS = 64;

/** Numbers of four bytes one after another, as the directory points to where there are several. */
function numbersAsBytes(numbers: readonly number[]): Uint8Array {
  const bytes = new DataView(new ArrayBuffer(numbers.length * 4));
  for (const [index, number] of numbers.entries()) bytes.setUint32(index * 4, number, true);
  return new Uint8Array(bytes.buffer);
}

/**
 * A TIFF of zlib-packed strips of `TIFF_STRIP_ROWS` rows: RGB, or RGBA where there is transparency. Throws where the strips are not as
 * many as its height asks for.
 */
export function writeTiff(width: number, height: number, strips: readonly Uint8Array[], alpha: TiffAlpha): Uint8Array {
  if (strips.length !== Math.ceil(height / TIFF_STRIP_ROWS)) throw new Error(`${height} rows are not in ${strips.length} strips.`);
  const samples = alpha === 'none' ? 3 : 4;
  const packed = inOne(strips);
  const stripBytes = strips.map(({ length }) => length);
  let stripAt = HEADER_BYTES;
  const stripOffsets = stripBytes.map((bytes) => {
    stripAt += bytes;
    return stripAt - bytes;
  });
  // Where there is one strip, the directory holds its numbers itself.
  const isListed = strips.length > 1;
  const offsetsAt = stripAt + (stripAt % 2);
  const sizesAt = offsetsAt + (isListed ? strips.length * 4 : 0);
  const bitsAt = sizesAt + (isListed ? strips.length * 4 : 0);
  const directoryAt = bitsAt + samples * 2;
  const entries: (readonly [tag: number, type: number, count: number, value: number])[] = [
    [TAGS.width, LONG, 1, width],
    [TAGS.height, LONG, 1, height],
    [TAGS.bits, SHORT, samples, bitsAt],
    [TAGS.compression, SHORT, 1, DEFLATE],
    [TAGS.photometric, SHORT, 1, RGB],
    [TAGS.stripOffset, LONG, strips.length, isListed ? offsetsAt : (stripOffsets[0] as number)],
    [TAGS.samples, SHORT, 1, samples],
    [TAGS.rowsPerStrip, LONG, 1, Math.min(height, TIFF_STRIP_ROWS)],
    [TAGS.stripBytes, LONG, strips.length, isListed ? sizesAt : (stripBytes[0] as number)],
    [TAGS.planar, SHORT, 1, CHUNKY],
  ];
  if (alpha !== 'none') entries.push([TAGS.extraSamples, SHORT, 1, EXTRA[alpha]]);
  const bytes = new Uint8Array(directoryAt + 2 + entries.length * 12 + 4);
  const view = new DataView(bytes.buffer);
  bytes.set([0x49, 0x49, 42, 0]);
  view.setUint32(4, directoryAt, true);
  bytes.set(packed, HEADER_BYTES);
  if (isListed) bytes.set(numbersAsBytes([...stripOffsets, ...stripBytes]), offsetsAt);
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

/** Where the zlib-packed bytes of a strip lie in the file, `end` not among them. */
export type TiffStrip = { readonly start: number; readonly end: number };

/** What a TIFF of this kind says of itself, and where its strips lie, from the top. */
export type TiffParts = { readonly size: Size; readonly alpha: TiffAlpha; readonly strips: readonly TiffStrip[] };

const BROKEN_OFF = refused('The TIFF picture is broken off.');
const OTHER_KIND = refused('This kind of TIFF is not read: RGB in packed strips is.');

/** Reads a TIFF of the kind `writeTiff` writes, also with strips of other heights; refuses any other. */
export function readTiff(bytes: Uint8Array): Outcome<TiffParts> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEADER_BYTES || view.getUint32(0) !== 0x49492a00) return refused('This is not a little-endian TIFF picture.');
  const directoryAt = view.getUint32(4, true);
  if (directoryAt + 2 > bytes.length) return BROKEN_OFF;
  const entryCount = view.getUint16(directoryAt, true);
  if (directoryAt + 2 + entryCount * 12 > bytes.length) return BROKEN_OFF;
  const entries = new Map<number, { readonly count: number; readonly value: number }>();
  for (let index = 0; index < entryCount; index++) {
    const at = directoryAt + 2 + index * 12;
    const count = view.getUint32(at + 4, true);
    const isShort = view.getUint16(at + 2, true) === SHORT && count === 1;
    entries.set(view.getUint16(at, true), { count, value: isShort ? view.getUint16(at + 8, true) : view.getUint32(at + 8, true) });
  }
  const value = (tag: keyof typeof TAGS, unsaid = 0) => entries.get(TAGS[tag])?.value ?? unsaid;
  const size = checkSize(value('width'), value('height'));
  if (!size.ok) return size;
  const samples = value('samples');
  const isPlain = value('planar', CHUNKY) === CHUNKY && value('predictor', NO_PREDICTOR) === NO_PREDICTOR;
  const isOurs = value('compression') === DEFLATE && value('photometric') === RGB && value('rowsPerStrip') > 0;
  if (!isOurs || !isPlain || (samples !== 3 && samples !== 4)) return OTHER_KIND;
  const stripCount = Math.ceil(size.value.height / value('rowsPerStrip'));
  const ofStrips = (tag: 'stripOffset' | 'stripBytes'): readonly number[] | null => {
    const { count, value: at } = entries.get(TAGS[tag]) ?? { count: 0, value: 0 };
    if (count !== stripCount || (count > 1 && at + count * 4 > bytes.length)) return null;
    return count === 1 ? [at] : Array.from({ length: count }, (_, index) => view.getUint32(at + index * 4, true));
  };
  const [offsets, sizes] = [ofStrips('stripOffset'), ofStrips('stripBytes')];
  if (!offsets || !sizes) return BROKEN_OFF;
  const strips = offsets.map((start, index) => ({ start, end: start + (sizes[index] as number) }));
  if (strips.some(({ end }) => end > bytes.length)) return BROKEN_OFF;
  const alpha = samples === 3 ? 'none' : value('extraSamples') === EXTRA.premultiplied ? 'premultiplied' : 'straight';
  return done({ size: size.value, alpha, strips });
}
