/*
 * Bitmap Storage (Microsoft, Win32 GDI documentation): BITMAPFILEHEADER, then BITMAPV4HEADER with channel masks for pixels with
 * transparency, or BITMAPINFOHEADER for 24 bits; rows from the lowest, each filled up to four bytes.
 */

const FILE_HEADER_BYTES = 14;
const INFO_HEADER_BYTES = 40;
const V4_HEADER_BYTES = 108;
const BI_BITFIELDS = 3;
const SRGB = 0x73524742;

/** A BMP of straight RGBA pixels, row by row from the top; without `hasAlpha` their fourth channel is left out. */
export function writeBmp(width: number, height: number, rgba: Uint8Array, hasAlpha: boolean): Uint8Array {
  const headerBytes = hasAlpha ? V4_HEADER_BYTES : INFO_HEADER_BYTES;
  const pixelBytes = hasAlpha ? 4 : 3;
  const rowBytes = Math.ceil((width * pixelBytes) / 4) * 4;
  const pixelOffset = FILE_HEADER_BYTES + headerBytes;
  const bytes = new Uint8Array(pixelOffset + rowBytes * height);
  const view = new DataView(bytes.buffer);
  bytes.set([0x42, 0x4d]);
  view.setUint32(2, bytes.length, true);
  view.setUint32(10, pixelOffset, true);
  view.setUint32(14, headerBytes, true);
  view.setInt32(18, width, true);
  view.setInt32(22, height, true);
  view.setUint16(26, 1, true);
  view.setUint16(28, pixelBytes * 8, true);
  view.setUint32(34, rowBytes * height, true);
  if (hasAlpha) {
    view.setUint32(30, BI_BITFIELDS, true);
    for (const [index, mask] of [0x00ff0000, 0x0000ff00, 0x000000ff, 0xff000000].entries()) view.setUint32(54 + index * 4, mask, true);
    view.setUint32(70, SRGB, true);
  }
  for (let y = 0; y < height; y++) {
    let to = pixelOffset + (height - 1 - y) * rowBytes;
    for (let from = y * width * 4; from < (y + 1) * width * 4; from += 4) {
      bytes[to++] = rgba[from + 2] as number;
      bytes[to++] = rgba[from + 1] as number;
      bytes[to++] = rgba[from] as number;
      if (hasAlpha) bytes[to++] = rgba[from + 3] as number;
    }
  }
  return bytes;
}
