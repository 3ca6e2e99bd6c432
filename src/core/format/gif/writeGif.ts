import { GIFEncoder } from 'gifenc';
import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import type { Area } from '@/core/raster/changedArea';
import type { Colour } from '@/core/raster/palette';

/*
 * GIF (GIF89a, CompuServe 1990): a screen with a palette for all, how often it is played (NETSCAPE2.0, common practice), and
 * pictures, each with its time in 1/100 s, its place, and a palette of its own where it has one. A kept encoder packs them; it
 * lays every picture at the left and the top, so the place is put into what it writes.
 */

/** What becomes of a picture when the next one comes: it stays (1), or its place is cleared (2). */
export type GifDisposal = 1 | 2;

export type GifPicture = {
  readonly area: Area;
  readonly indices: Uint8Array;
  /** Null where it is in the palette for all. */
  readonly palette: readonly Colour[] | null;
  /** How many colours the palette it is in has. */
  readonly colours: number;
  /** The index that is transparent; null where none is. */
  readonly transparent: number | null;
  readonly centiseconds: number;
  readonly disposal: GifDisposal;
};

/** Bits that count a palette's colours, at least one. */
const bitsOf = (colours: number): number => Math.max(1, Math.ceil(Math.log2(colours)));

/** A palette as it is stored: a power of two of colours. */
function tableOf(palette: readonly Colour[]): Uint8Array {
  const table = new Uint8Array(3 << bitsOf(palette.length));
  for (const [index, colour] of palette.entries()) table.set([colour >> 16, (colour >> 8) & 255, colour & 255], index * 3);
  return table;
}

/** `plays` 0 is for ever. An application block says how often it is played again; without one it is played once. */
function playsBlock(plays: number): Uint8Array {
  if (plays === 1) return new Uint8Array(0);
  const again = plays === 0 ? 0 : plays - 1;
  const name = [...'NETSCAPE2.0'].map((letter) => letter.charCodeAt(0));
  return Uint8Array.from([0x21, 0xff, 11, ...name, 3, 1, again & 255, again >> 8, 0]);
}

/** The beginning of a GIF: its size, the palette for all pictures if there is one, and how often it is played. */
export function gifHead({ width, height }: Size, palette: readonly Colour[] | null, plays: number): Uint8Array {
  const signature = [...'GIF89a'].map((letter) => letter.charCodeAt(0));
  const packed = palette ? 0x80 | ((bitsOf(palette.length) - 1) << 4) | (bitsOf(palette.length) - 1) : 0x70;
  const screen = [width & 255, width >> 8, height & 255, height >> 8, packed, 0, 0];
  return inOne([Uint8Array.from([...signature, ...screen]), palette ? tableOf(palette) : new Uint8Array(0), playsBlock(plays)]);
}

/** Bytes of the graphic control extension, which stands before a picture's own. */
const CONTROL_BYTES = 8;

/** A picture of a GIF. */
export function gifPicture({ area, indices, palette, colours, transparent, centiseconds, disposal }: GifPicture): Uint8Array {
  const encoder = GIFEncoder({ auto: false, initialCapacity: indices.length });
  encoder.writeFrame(indices, area.width, area.height, {
    palette: palette?.map((colour) => [colour >> 16, (colour >> 8) & 255, colour & 255]),
    delay: centiseconds * 10,
    transparent: transparent !== null,
    transparentIndex: transparent ?? 0,
    dispose: disposal,
    colorDepth: bitsOf(colours),
  });
  const bytes = encoder.bytes();
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  view.setUint16(CONTROL_BYTES + 1, area.x, true);
  view.setUint16(CONTROL_BYTES + 3, area.y, true);
  return bytes;
}

/** What a GIF ends with. */
export const GIF_END = Uint8Array.of(0x3b);
