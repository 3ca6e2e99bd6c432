import { checkSize } from '@/core/document/size';
import type { Pixels } from '@/core/format/pixels';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * Bitmap Storage (Microsoft, Win32 GDI documentation): BITMAPFILEHEADER (14 bytes), then BITMAPINFOHEADER or
 * a later header that begins like it, a colour table or channel masks, then rows padded to four bytes, the
 * lowest first unless the height is negative. Read are 1, 4, 8, 16, 24 and 32 bits without compression
 * (BI_RGB) and with masks (BI_BITFIELDS, BI_ALPHABITFIELDS).
 */

const FILE_HEADER_BYTES = 14;
const INFO_HEADER_BYTES = 40;
const BI_RGB = 0;
const BI_BITFIELDS = 3;
const BI_ALPHABITFIELDS = 6;

export const looksLikeBmp = (bytes: Uint8Array): boolean =>
  bytes.byteLength >= FILE_HEADER_BYTES + 4 && bytes[0] === 0x42 && bytes[1] === 0x4d;

/** A channel's mask as what reads it from a pixel, scaled to 0–255; a mask of 0 is no channel. */
function channelOf(mask: number): ((value: number) => number) | null {
  if (mask === 0) return null;
  const shift = Math.clz32(mask & -mask) ^ 31;
  const most = mask >>> shift;
  return (value) => Math.round((((value & mask) >>> shift) * 255) / most);
}

/** Reads a BMP picture; refuses what is none, is broken off, is compressed, or is too large. */
export function readBmp(bytes: Uint8Array): Outcome<Pixels> {
  if (!looksLikeBmp(bytes) || bytes.byteLength < FILE_HEADER_BYTES + INFO_HEADER_BYTES) return refused('This is not a BMP picture.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const pixelOffset = view.getUint32(10, true);
  const headerBytes = view.getUint32(14, true);
  if (headerBytes < INFO_HEADER_BYTES) return refused('This BMP has a header older than 1990, which is not read.');
  const [width, signedHeight] = [view.getInt32(18, true), view.getInt32(22, true)];
  const size = checkSize(width, Math.abs(signedHeight));
  if (!size.ok) return size;
  const { height } = size.value;
  const [bits, compression] = [view.getUint16(28, true), view.getUint32(30, true)];
  const masked = compression === BI_BITFIELDS || compression === BI_ALPHABITFIELDS;
  if ((compression !== BI_RGB && !masked) || ![1, 4, 8, 16, 24, 32].includes(bits))
    return refused(`This BMP is compressed or has ${bits} bits a pixel: that kind is not read. Save it without compression.`);
  const rowBytes = Math.ceil((width * bits) / 32) * 4;
  if (pixelOffset + rowBytes * height > bytes.byteLength) return refused(`The BMP picture is broken off: it should have ${height} rows.`);

  const maskAt = (index: number) => view.getUint32(FILE_HEADER_BYTES + INFO_HEADER_BYTES + index * 4, true);
  const hasAlphaMask = masked && (compression === BI_ALPHABITFIELDS || headerBytes >= 56);
  const masks = masked
    ? [maskAt(0), maskAt(1), maskAt(2), hasAlphaMask ? maskAt(3) : 0]
    : bits === 16
      ? [0x7c00, 0x03e0, 0x001f, 0]
      : [0xff0000, 0xff00, 0xff, 0];
  const [red, green, blue, alpha] = masks.map(channelOf);
  const tableAt = FILE_HEADER_BYTES + headerBytes;
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++) {
    const row = pixelOffset + rowBytes * (signedHeight < 0 ? y : height - 1 - y);
    for (let x = 0; x < width; x++) {
      const to = (y * width + x) * 4;
      if (bits <= 8) {
        const perByte = 8 / bits;
        const index = ((bytes[row + Math.floor(x / perByte)] as number) >> (8 - bits * ((x % perByte) + 1))) & ((1 << bits) - 1);
        const from = tableAt + index * 4;
        rgba.set([bytes[from + 2] ?? 0, bytes[from + 1] ?? 0, bytes[from] ?? 0, 255], to);
      } else if (bits === 24) {
        const from = row + x * 3;
        rgba.set([bytes[from + 2] as number, bytes[from + 1] as number, bytes[from] as number, 255], to);
      } else {
        const value = bits === 16 ? view.getUint16(row + x * 2, true) : view.getUint32(row + x * 4, true);
        rgba.set([red?.(value) ?? 0, green?.(value) ?? 0, blue?.(value) ?? 0, alpha?.(value) ?? 255], to);
      }
    }
  }
  return done({ size: size.value, rgba });
}
