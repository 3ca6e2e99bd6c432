import { deflateSync, inflateSync } from 'node:zlib';
import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { readBmp } from '@/core/format/bmp/readBmp';
import { writeBmp } from '@/core/format/bmp/writeBmp';
import { withSrgb } from '@/core/format/png/srgb';
import { readTga } from '@/core/format/tga/readTga';
import { writeTga } from '@/core/format/tga/writeTga';
import { readTiff, TIFF_STRIP_ROWS, writeTiff } from '@/core/format/tiff/tiff';
import { mustBeDone } from '@/core/outcome';
import { premultiplied, signatureOfPixels } from '@/core/raster/pictureSignature';

/* Picture files as they are written, read back by readers that were there before them and by sharp (libtiff, libpng). */

const pictureUpTo = (mostHeight: number) =>
  fc
    .record({ width: fc.integer({ min: 1, max: 9 }), height: fc.integer({ min: 1, max: mostHeight }), seed: fc.integer() })
    .map(({ width, height, seed }) => ({
      width,
      height,
      rgba: Uint8Array.from({ length: width * height * 4 }, (_, at) => Math.imul(at + seed, 2_654_435_761) >>> 24),
    }));
const anyPicture = pictureUpTo(9);
/** Of one strip of a TIFF, just so many, or several. */
const anyTallPicture = pictureUpTo(3 * TIFF_STRIP_ROWS);
const opaque = (rgba: Uint8Array) => rgba.map((value, at) => (at % 4 === 3 ? 255 : value));
const withoutAlpha = (rgba: Uint8Array) => rgba.filter((_, at) => at % 4 !== 3);

describe('pictures come back as they were written', () => {
  it('as TGA and BMP, with transparency and without', () => {
    fc.assert(
      fc.property(anyPicture, ({ width, height, rgba }) => {
        expect(mustBeDone(readTga(writeTga(width, height, rgba, 'straight')))).toEqual({
          size: { width, height },
          rgba: new Uint8ClampedArray(rgba),
        });
        expect(mustBeDone(readTga(writeTga(width, height, rgba, 'none'))).rgba).toEqual(new Uint8ClampedArray(opaque(rgba)));
        expect(mustBeDone(readBmp(writeBmp(width, height, rgba, true)))).toEqual({
          size: { width, height },
          rgba: new Uint8ClampedArray(rgba),
        });
        expect(mustBeDone(readBmp(writeBmp(width, height, rgba, false))).rgba).toEqual(new Uint8ClampedArray(opaque(rgba)));
      }),
    );
  });

  it('as TIFF, also by libtiff', async () => {
    await fc.assert(
      fc.asyncProperty(anyTallPicture, fc.constantFrom('none', 'straight', 'premultiplied'), async ({ width, height, rgba }, alpha) => {
        const data = alpha === 'none' ? withoutAlpha(rgba) : rgba;
        const rowsOfStrip = width * (data.length / (width * height)) * TIFF_STRIP_ROWS;
        const strips = Array.from({ length: Math.ceil(height / TIFF_STRIP_ROWS) }, (_, strip) =>
          deflateSync(data.subarray(strip * rowsOfStrip, (strip + 1) * rowsOfStrip)),
        );
        const tiff = writeTiff(width, height, strips, alpha);
        const parts = mustBeDone(readTiff(tiff));
        expect([parts.size, parts.alpha]).toEqual([{ width, height }, alpha]);
        const read = Buffer.concat(parts.strips.map(({ start, end }) => inflateSync(tiff.subarray(start, end))));
        expect(Buffer.compare(read, data)).toBe(0);
        const { data: byLibtiff, info } = await sharp(tiff).raw().toBuffer({ resolveWithObject: true });
        expect([info.width, info.height, info.channels]).toEqual([width, height, alpha === 'none' ? 3 : 4]);
        if (alpha !== 'premultiplied') expect(Buffer.compare(byLibtiff, data)).toBe(0);
      }),
      { numRuns: 30 },
    );
  });

  it('as TIFF, and one of another program where its samples lie as ours do', async () => {
    const pixels = Uint8Array.from({ length: 5 * 200 * 4 }, (_, at) => Math.imul(at, 2_654_435_761) >>> 24);
    const picture = sharp(pixels, { raw: { width: 5, height: 200, channels: 4 } });
    const written = await picture.clone().tiff({ compression: 'deflate', predictor: 'none' }).toBuffer();
    const { strips } = mustBeDone(readTiff(written));
    expect(Buffer.compare(Buffer.concat(strips.map(({ start, end }) => inflateSync(written.subarray(start, end)))), pixels)).toBe(0);
    const differences = await picture.clone().tiff({ compression: 'deflate', predictor: 'horizontal' }).toBuffer();
    expect(readTiff(differences).ok).toBe(false);
  });

  it('and nothing that is broken off or of another kind is taken for a TIFF of ours', () => {
    const height = 3 * TIFF_STRIP_ROWS;
    const strips = [0, 1, 2].map(() => deflateSync(new Uint8Array(2 * TIFF_STRIP_ROWS * 4)));
    const tiff = writeTiff(2, height, strips, 'straight');
    for (let length = 0; length < tiff.length - 4; length++) expect(readTiff(tiff.subarray(0, length)).ok).toBe(false);
    expect(() => writeTiff(2, height + 1, strips, 'straight')).toThrow('193 rows');
    const other = tiff.slice();
    // Its compression becomes LZW.
    const view = new DataView(other.buffer);
    view.setUint16(view.getUint32(4, true) + 2 + 3 * 12 + 8, 5, true);
    expect(readTiff(other).ok).toBe(false);
  });
});

describe('a PNG that says its colours are sRGB', () => {
  it('is the same picture to libpng, whose checks its chunk passes', async () => {
    const png = await sharp({ create: { width: 3, height: 2, channels: 4, background: '#c84' } })
      .png()
      .toBuffer();
    const said = withSrgb(new Uint8Array(png));
    expect(said.length).toBe(png.length + 13);
    expect(await sharp(said, { failOn: 'warning' }).raw().toBuffer()).toEqual(await sharp(png).raw().toBuffer());
    expect(withSrgb(said)).toEqual(said);
  });
});

describe('signatures of pictures', () => {
  it('are those of the even-sided picture in which the last column and row are there twice', () => {
    const one = Uint8Array.from([10, 200, 30, 255]);
    const four = Uint8Array.from([...one, ...one, ...one, ...one]);
    expect(signatureOfPixels(1, 1, one, false)).toEqual(signatureOfPixels(2, 2, four, false));
    expect(signatureOfPixels(1, 1, one, true)).toEqual(signatureOfPixels(2, 2, four, true));
    expect(signatureOfPixels(2, 2, four, true).length).toBe(signatureOfPixels(2, 2, four, false).length + 1);
  });
  it('colours are multiplied by how much of them is seen, rounded (worked by hand)', () => {
    expect([...premultiplied(Uint8Array.from([255, 100, 1, 128, 9, 9, 9, 0, 7, 8, 9, 255]))]).toEqual([
      128, 50, 1, 128, 0, 0, 0, 0, 7, 8, 9, 255,
    ]);
  });
});
