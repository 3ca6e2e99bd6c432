import sharp from 'sharp';
import { expect, it } from 'vitest';
import { bareRgbaPng } from '@/core/format/png/bare';
import { pngChunks } from '@/core/format/png/chunks';

/* PNGs by an image library (libpng), with and without what a bare one has not. */

const picture = () =>
  sharp({ create: { width: 5, height: 3, channels: 4, background: { r: 200, g: 90, b: 10, alpha: 0.4 } } }).png({ palette: false });
const types = (png: Uint8Array) => [...new Set(pngChunks(png).chunks.map(({ type }) => type))];

it('has its pixels and that they are sRGB, and nothing else', async () => {
  const said = await picture()
    .withMetadata({ density: 300 })
    .withExif({ IFD0: { Artist: 'nobody' } })
    .toBuffer();
  expect(types(said).length).toBeGreaterThan(3);
  const bare = bareRgbaPng(said);
  if (!bare) throw new Error('It is a PNG of four samples of 8 bits.');
  expect(types(bare)).toEqual(['IHDR', 'sRGB', 'IDAT', 'IEND']);
  expect(Buffer.compare(await sharp(bare).raw().toBuffer(), await sharp(said).raw().toBuffer())).toBe(0);
});

it.each([
  ['without transparency', () => picture().flatten().removeAlpha().toBuffer()],
  ['of 16 bits', () => picture().toColourspace('rgb16').toBuffer()],
  ['of a palette', () => picture().png({ palette: true }).toBuffer()],
  ['that comes in passes', () => picture().png({ progressive: true }).toBuffer()],
  ['that is cut', async () => (await picture().toBuffer()).subarray(0, -7)],
  ['that is none', async () => Buffer.from('no picture')],
])('is not made of one %s', async (_what, made) => {
  expect(bareRgbaPng(await made())).toBe(null);
});
