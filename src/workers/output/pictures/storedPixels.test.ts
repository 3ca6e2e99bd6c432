import sharp from 'sharp';
import { expect, it } from 'vitest';
import { storedPixels } from '@/workers/output/pictures/storedPixels';
import { storedPng } from '@/workers/render/storedPng';

/* The way without a decoder of the browser's own, which there is none of here; the PNGs are an image library's (libpng). */

const SIZE = { width: 256, height: 256 };
/** Every transparency with every value of a channel, a transparency a row. */
const everyColour = () =>
  Buffer.from(Array.from({ length: 256 * 256 }, (_, at) => [at % 256, 255 - (at % 256), 90, Math.floor(at / 256)]).flat());
const pngOf = (rgba: Buffer) =>
  sharp(rgba, { raw: { ...SIZE, channels: 4 } })
    .png()
    .toBuffer();

it('gives every colour as it is stored where a script decodes, and none where nothing is seen', async () => {
  const meant = everyColour();
  const { rgba, stored } = await storedPixels(storedPng(await pngOf(meant)), SIZE);
  meant.fill(0, 0, 256 * 4);
  expect(Buffer.compare(rgba, meant)).toBe(0);
  // The file holds colours that nobody sees: it may not leave as it is.
  expect(stored).toBe(null);
});

it('gives the file with pixels that are just what it holds', async () => {
  const seen = everyColour().fill(0, 0, 256 * 4);
  const png = await pngOf(seen);
  const { stored } = await storedPixels(storedPng(png), SIZE);
  expect(Buffer.compare(stored ?? Buffer.alloc(0), png)).toBe(0);
});
