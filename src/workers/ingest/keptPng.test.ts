import { decode } from 'fast-png';
import sharp from 'sharp';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { keptPng } from '@/workers/ingest/keptPng';

afterEach(() => vi.unstubAllGlobals());

/** Every pair of a channel and a transparency, and pixels of none. */
function allColours(): Uint8Array {
  const rgba = new Uint8Array(256 * 257 * 4);
  for (let alpha = 0; alpha < 256; alpha++)
    for (let value = 0; value < 256; value++) {
      const colour = alpha === 0 ? [0, 0, 0] : [value, 255 - value, (value * 7) % 256];
      rgba.set([...colour, alpha], (alpha * 256 + value) * 4);
    }
  return rgba;
}

describe.each([
  ['the browser’s own zlib', () => undefined],
  ['no zlib of the browser’s own', () => vi.stubGlobal('CompressionStream', undefined)],
])('a drawing kept with %s', (_, prepare) => {
  it('comes back to the last pixel, as a script and an image library read it', async () => {
    prepare();
    const rgba = allColours();
    const png = await keptPng(256, 257, rgba);
    const { width, height, channels, depth, data } = decode(png);
    expect({ width, height, channels, depth }).toEqual({ width: 256, height: 257, channels: 4, depth: 8 });
    expect(Buffer.compare(data as Uint8Array, rgba)).toBe(0);
    expect(Buffer.compare(await sharp(png).raw().toBuffer(), rgba)).toBe(0);
  });
});
