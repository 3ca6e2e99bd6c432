/*
 * Truevision TGA File Format Specification 2.0 (1991): the 18-byte header of a true-colour picture without run lengths, its
 * first pixel at the upper left; blue, green, red and, where it has any, transparency; then an extension area, whose last byte
 * says what the transparency is, and the footer that tells where it lies.
 */

const HEADER_BYTES = 18;
const EXTENSION_BYTES = 495;
const FOOTER_BYTES = 26;
const TRUE_COLOUR = 2;
const FROM_TOP = 0x20;
const SIGNATURE = 'TRUEVISION-XFILE.\0';
/** Attributes type (field 24): none that matters, straight, or multiplied into the colours. */
const ATTRIBUTES = { none: 0, straight: 3, premultiplied: 4 } as const;

/** A TGA of RGBA pixels, row by row from the top. With alpha `none` their fourth channel is left out. */
export function writeTga(width: number, height: number, rgba: Uint8Array, alpha: keyof typeof ATTRIBUTES): Uint8Array {
  const pixelBytes = alpha === 'none' ? 3 : 4;
  const extensionAt = HEADER_BYTES + width * height * pixelBytes;
  const bytes = new Uint8Array(extensionAt + EXTENSION_BYTES + FOOTER_BYTES);
  const view = new DataView(bytes.buffer);
  view.setUint8(2, TRUE_COLOUR);
  view.setUint16(12, width, true);
  view.setUint16(14, height, true);
  view.setUint8(16, pixelBytes * 8);
  view.setUint8(17, FROM_TOP | (alpha === 'none' ? 0 : 8));
  let to = HEADER_BYTES;
  for (let from = 0; from < width * height * 4; from += 4) {
    bytes[to++] = rgba[from + 2] as number;
    bytes[to++] = rgba[from + 1] as number;
    bytes[to++] = rgba[from] as number;
    if (pixelBytes === 4) bytes[to++] = rgba[from + 3] as number;
  }
  view.setUint16(extensionAt, EXTENSION_BYTES, true);
  view.setUint8(extensionAt + EXTENSION_BYTES - 1, ATTRIBUTES[alpha]);
  view.setUint32(extensionAt + EXTENSION_BYTES, extensionAt, true);
  for (let index = 0; index < SIGNATURE.length; index++) bytes[bytes.length - SIGNATURE.length + index] = SIGNATURE.charCodeAt(index);
  return bytes;
}
