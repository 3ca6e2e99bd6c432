import { pngChunks } from '@/core/format/png/chunks';

/*
 * The sRGB chunk (W3C PNG Third Edition, 11.3.2.4): one byte, 0 for a perceptual intent; it stands between IHDR and the pixels.
 * Its CRC over type and data is that of the five bytes 73 52 47 42 00, and so always the same.
 */
const CHUNK = Uint8Array.from([0, 0, 0, 1, 0x73, 0x52, 0x47, 0x42, 0, 0xae, 0xce, 0x1c, 0xe9]);
const AFTER_HEADER = 8 + 25;

/** Whether a PNG says that its colours are sRGB. */
export const saysSrgb = (png: Uint8Array): boolean => pngChunks(png).chunks.some(({ type }) => type === 'sRGB');

/** A PNG that says its colours are sRGB; as it is where it says so already. */
export function withSrgb(png: Uint8Array): Uint8Array {
  if (pngChunks(png).chunks.some(({ type }) => type === 'sRGB' || type === 'iCCP')) return png;
  const out = new Uint8Array(png.length + CHUNK.length);
  out.set(png.subarray(0, AFTER_HEADER));
  out.set(CHUNK, AFTER_HEADER);
  out.set(png.subarray(AFTER_HEADER), AFTER_HEADER + CHUNK.length);
  return out;
}
