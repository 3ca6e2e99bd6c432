import { inOne } from '@/core/bytes';
import { pngChunks } from '@/core/format/png/chunks';
import { readPngSize } from '@/core/format/png/header';
import { withSrgb } from '@/core/format/png/srgb';

/** Bytes of a chunk's length and type before its data, and of the check after it (W3C PNG Third Edition, 5.3). */
const [BEFORE_BYTES, AFTER_BYTES] = [8, 4];
const SIGNATURE_BYTES = 8;
/** Where the header says depth, colour type, compression, filter and interlacing (11.2.1), and the values of four samples of 8 bits, row by row. */
const FORM_AT = 24;
const FORM = [8, 6, 0, 0, 0];

/**
 * A PNG of four samples of 8 bits with nothing in it but its pixels and that its colours are sRGB; null where it has another form,
 * or is not whole.
 */
export function bareRgbaPng(png: Uint8Array): Uint8Array | null {
  if (!readPngSize(png).ok || FORM.some((value, at) => png[FORM_AT + at] !== value)) return null;
  const { chunks, isWhole } = pngChunks(png);
  if (!isWhole) return null;
  const kept = chunks.filter(({ type }) => type === 'IHDR' || type === 'IDAT' || type === 'IEND');
  return withSrgb(
    inOne([png.subarray(0, SIGNATURE_BYTES), ...kept.map(({ start, end }) => png.subarray(start - BEFORE_BYTES, end + AFTER_BYTES))]),
  );
}
