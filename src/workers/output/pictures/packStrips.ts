import { inOne, isSame } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { TIFF_STRIP_ROWS } from '@/core/format/tiff/tiff';
import { deflated, inflated } from '@/workers/output/pictures/deflated';

/*
 * The pixels of a TIFF strip by strip. Most of a drawing on transparency is empty, and so are whole strips of it: one that is the
 * same as the one above is neither packed nor unpacked again, since zlib takes nearly as long for nothing as for lines.
 */

/** What is made of each part in turn; a part that is the same as the one before gets the same. */
async function oncePerRun<Made>(parts: readonly Uint8Array[], make: (part: Uint8Array) => Promise<Made>): Promise<readonly Made[]> {
  const all: Made[] = [];
  for (const [index, part] of parts.entries()) {
    const before = parts[index - 1];
    all.push(before && isSame(before, part) ? (all[index - 1] as Made) : await make(part));
  }
  return all;
}

/** Pixels of `size`, with however many samples each, as the packed strips of a TIFF. */
export function packedStrips(pixels: Uint8Array, { height }: Size): Promise<readonly Uint8Array[]> {
  const stripBytes = (pixels.length / height) * TIFF_STRIP_ROWS;
  const strips = Array.from({ length: Math.ceil(height / TIFF_STRIP_ROWS) }, (_, strip) =>
    pixels.subarray(strip * stripBytes, (strip + 1) * stripBytes),
  );
  return oncePerRun(strips, deflated);
}

/** The pixels of packed strips, one after another. Rejects where one is broken. */
export const unpackedStrips = async (strips: readonly Uint8Array[]): Promise<Uint8Array> => inOne(await oncePerRun(strips, inflated));
