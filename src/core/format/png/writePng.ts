import { inOne } from '@/core/bytes';
import { chunkBytes } from '@/core/format/png/chunkBytes';

/*
 * A PNG of straight pixels (W3C PNG Third Edition, 11.2): its header, what says that its colours are sRGB, and its rows, each
 * after a byte 0 for no filter. Flat drawings pack no smaller with one, and packing is left to whoever has a quick zlib.
 */

const SIGNATURE = Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10]);
/** Colour types 2 and 6: colours without and with transparency. */
const COLOUR_TYPES = { 3: 2, 4: 6 } as const;

export type PngFacts = { readonly width: number; readonly height: number; readonly channels: 3 | 4; readonly depth: 8 | 16 };

/** The rows of a picture as they are packed into a PNG. `samples` are of 8 bits; in 16 bits a value v becomes 257 · v, both bytes v. */
export function pngRows({ width, height, channels, depth }: PngFacts, samples: Uint8Array): Uint8Array {
  const perRow = width * channels;
  const rowBytes = perRow * (depth / 8) + 1;
  const rows = new Uint8Array(rowBytes * height);
  for (let row = 0; row < height; row++) {
    const start = row * rowBytes + 1;
    const own = samples.subarray(row * perRow, (row + 1) * perRow);
    if (depth === 8) rows.set(own, start);
    else
      for (let sample = 0; sample < perRow; sample++) {
        rows[start + sample * 2] = own[sample] as number;
        rows[start + sample * 2 + 1] = own[sample] as number;
      }
  }
  return rows;
}

/** A PNG of rows that are packed already (zlib, RFC 1950). */
export function writePng({ width, height, channels, depth }: PngFacts, packedRows: Uint8Array): Uint8Array {
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header[8] = depth;
  header[9] = COLOUR_TYPES[channels];
  return inOne([
    SIGNATURE,
    chunkBytes('IHDR', header),
    chunkBytes('sRGB', Uint8Array.of(0)),
    chunkBytes('IDAT', packedRows),
    chunkBytes('IEND', new Uint8Array(0)),
  ]);
}
