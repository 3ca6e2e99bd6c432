import { checkSize } from '@/core/document/size';
import type { Pixels } from '@/core/format/pixels';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * Truevision TGA File Format Specification 2.0 (1991): an 18-byte header, an identification field, a colour
 * map, then pixels. Read are types 1, 2 and 3 (colour map, true colour, grey) and their run-length forms 9,
 * 10 and 11, with 8, 16, 24 or 32 bits a pixel. Bits 4 and 5 of the descriptor say at which corner the first
 * pixel lies.
 */

const HEADER_BYTES = 18;
const MAPPED = 1;
const GREY = 3;
const RUN_LENGTH = 8;

type Header = {
  readonly type: number;
  readonly isRunLength: boolean;
  readonly mapStart: number;
  readonly mapEntries: number;
  readonly mapBits: number;
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly alphaBits: number;
  readonly fromRight: boolean;
  readonly fromTop: boolean;
  readonly mapOffset: number;
};

function readHeader(bytes: Uint8Array): Header | null {
  if (bytes.byteLength < HEADER_BYTES) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [mapType, code] = [view.getUint8(1), view.getUint8(2)];
  const type = code & ~RUN_LENGTH;
  const bits = view.getUint8(16);
  const descriptor = view.getUint8(17);
  const plausible =
    mapType <= 1 &&
    type >= MAPPED &&
    type <= GREY &&
    [8, 15, 16, 24, 32].includes(bits) &&
    (type !== MAPPED || mapType === 1) &&
    (descriptor & 0xc0) === 0;
  if (!plausible) return null;
  return {
    type,
    isRunLength: (code & RUN_LENGTH) !== 0,
    mapStart: view.getUint16(3, true),
    mapEntries: mapType === 1 ? view.getUint16(5, true) : 0,
    mapBits: view.getUint8(7),
    width: view.getUint16(12, true),
    height: view.getUint16(14, true),
    bits,
    alphaBits: descriptor & 0x0f,
    fromRight: (descriptor & 0x10) !== 0,
    fromTop: (descriptor & 0x20) !== 0,
    mapOffset: HEADER_BYTES + view.getUint8(0),
  };
}

/** Whether bytes look like a TGA: it has no signature, so its header must make sense. */
export const looksLikeTga = (bytes: Uint8Array): boolean => readHeader(bytes) !== null;

type Colour = readonly [number, number, number, number];

/** A colour as it is stored in the file: blue, green, red, and alpha where the header says there is some. */
function colourAt(bytes: Uint8Array, at: number, bits: number, hasAlpha: boolean): Colour {
  const byte = (offset: number) => bytes[at + offset] as number;
  if (bits === 8) return [byte(0), byte(0), byte(0), 255];
  if (bits <= 16) {
    const value = byte(0) | (byte(1) << 8);
    const five = (shift: number) => Math.round((((value >> shift) & 31) * 255) / 31);
    return [five(10), five(5), five(0), hasAlpha && value < 0x8000 ? 0 : 255];
  }
  return [byte(2), byte(1), byte(0), bits === 32 && hasAlpha ? byte(3) : 255];
}

/** Reads a TGA picture; refuses what is none, is broken off, or is too large. */
export function readTga(bytes: Uint8Array): Outcome<Pixels> {
  const header = readHeader(bytes);
  if (!header) return refused('This is not a TGA picture.');
  const size = checkSize(header.width, header.height);
  if (!size.ok) return size;
  const { width, height, bits, type } = header;
  const mapEntryBytes = Math.ceil(header.mapBits / 8);
  const pixelBytes = Math.ceil(bits / 8);
  const hasAlpha = header.alphaBits > 0;
  const rgba = new Uint8ClampedArray(width * height * 4);
  let at = header.mapOffset + header.mapEntries * mapEntryBytes;
  const read = (from: number): Colour => {
    if (type !== MAPPED) return colourAt(bytes, from, bits, hasAlpha);
    const index = (bits === 8 ? (bytes[from] as number) : (bytes[from] as number) | ((bytes[from + 1] as number) << 8)) - header.mapStart;
    return colourAt(bytes, header.mapOffset + index * mapEntryBytes, header.mapBits, header.mapBits === 32);
  };
  const put = (pixel: number, colour: Colour) => {
    const [x, y] = [pixel % width, Math.floor(pixel / width)];
    rgba.set(colour, ((header.fromTop ? y : height - 1 - y) * width + (header.fromRight ? width - 1 - x : x)) * 4);
  };
  const brokenOff = refused(`The TGA picture is broken off: it should have ${width * height} pixels.`);
  for (let pixel = 0; pixel < width * height; ) {
    const packet = header.isRunLength ? (bytes[at++] ?? -1) : width * height - pixel - 1;
    if (packet < 0) return brokenOff;
    const count = header.isRunLength ? (packet & 0x7f) + 1 : width * height - pixel;
    const repeats = header.isRunLength && (packet & 0x80) !== 0;
    for (let each = 0; each < count && pixel < width * height; each++, pixel++) {
      if (at + pixelBytes > bytes.byteLength) return brokenOff;
      put(pixel, read(at));
      if (!repeats) at += pixelBytes;
    }
    if (repeats) at += pixelBytes;
  }
  return done({ size: size.value, rgba });
}
