import { deflateSync } from 'node:zlib';
import { BlobReader, TextReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { openPictures } from '@/server/service/bringIn/decode';
import { checkPages } from '@/server/service/bringIn/pages';

/*
 * Small files that hold gigabytes: each is refused by what its pictures come to together, or by one picture's
 * size, before anything of it is decoded.
 */

const CRC = Array.from({ length: 256 }, (_, index) =>
  Array.from({ length: 8 }).reduce<number>((crc) => (crc & 1 ? 0xedb88320 ^ (crc >>> 1) : crc >>> 1), index),
);
const crcOf = (bytes: Uint8Array) =>
  (bytes.reduce((sum, byte) => (CRC[(sum ^ byte) & 255] ?? 0) ^ (sum >>> 8), 0xffffffff) ^ 0xffffffff) >>> 0;
const number = (value: number) => {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32BE(value);
  return bytes;
};
function chunk(type: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  return Buffer.concat([number(data.byteLength), body, number(crcOf(body))]);
}
const header = (width: number, height: number) =>
  chunk('IHDR', Buffer.concat([number(width), number(height), Buffer.from([1, 0, 0, 0, 0])]));
const SIGNATURE = Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]);
const plainPng = (width: number, height: number) =>
  Buffer.concat([SIGNATURE, header(width, height), chunk('IDAT', deflateSync(Buffer.alloc(1000))), chunk('IEND', new Uint8Array(0))]);

function apng(width: number, height: number, frames: number): Buffer {
  const pixels = deflateSync(Buffer.alloc((Math.ceil(width / 8) + 1) * height), { level: 9 });
  const parts = [SIGNATURE, header(width, height), chunk('acTL', Buffer.concat([number(frames), number(0)]))];
  let sequence = 0;
  for (let frame = 0; frame < frames; frame++) {
    const control = Buffer.concat([
      number(sequence++),
      number(width),
      number(height),
      number(0),
      number(0),
      Buffer.from([0, 1, 0, 24, 0, 0]),
    ]);
    parts.push(chunk('fcTL', control));
    if (frame === 0) parts.push(chunk('IDAT', pixels));
    else parts.push(chunk('fdAT', Buffer.concat([number(sequence++), pixels])));
  }
  return Buffer.concat([...parts, chunk('IEND', new Uint8Array(0))]);
}

async function layered(width: number, height: number, layers: number): Promise<Uint8Array> {
  const zip = new ZipWriter(new Uint8ArrayWriter());
  await zip.add('mimetype', new TextReader('image/openraster'), { level: 0 });
  const names = Array.from({ length: layers }, (_, index) => `<layer name="${index}" src="data/a.png"/>`).join('');
  await zip.add('stack.xml', new TextReader(`<image w="${width}" h="${height}"><stack>${names}</stack></image>`));
  await zip.add('data/a.png', new BlobReader(new Blob([plainPng(width, height)])));
  return zip.close();
}

/** A small animation that says it is enormous, which costs nothing to make. */
async function animatedWebp(side: number, pages: number): Promise<Uint8Array> {
  const frames = Buffer.alloc(8 * 8 * pages * 4).map((_, at) => (at * 37 + (at >> 8) * 91) % 251);
  const image = sharp(frames, { raw: { width: 8, height: 8 * pages, channels: 4, pageHeight: 8 } });
  const bytes = new Uint8Array(await image.webp({ effort: 1 }).toBuffer());
  const canvas = side - 1;
  bytes.set([canvas & 255, canvas >> 8, 0, canvas & 255, canvas >> 8, 0], 24);
  return bytes;
}

describe('files that would fill the memory', () => {
  it.each<readonly [string, () => Promise<Uint8Array> | Uint8Array]>([
    ['an APNG of 2,000 frames of 4000 × 4000, one bit each', () => apng(4000, 4000, 2000)],
    ['an OpenRaster of 500 layers of 8000 × 8000', () => layered(8000, 8000, 500)],
    ['an OpenRaster of 2,000 layers of 16,384²', () => layered(16_384, 16_384, 2000)],
    ['a WebP of 57 pictures of 4000 × 4000', () => animatedWebp(4000, 57)],
    ['a plain PNG of 16,383²', () => plainPng(16_383, 16_383)],
  ])(
    '%s: refused with a sentence, and nothing decoded',
    async (_what, make) => {
      const bytes = await make();
      const before = process.memoryUsage().rss;
      const opened = await openPictures(new Uint8Array(bytes), 'bomb.bin');
      expect(opened.ok).toBe(false);
      if (!opened.ok) expect(opened.reason).toMatch(/million pixels|more than 67 million|broken/);
      expect(process.memoryUsage().rss - before).toBeLessThan(300 * 1024 * 1024);
    },
    30_000,
  );

  it.each([
    ['57 pictures of 4000 × 4000', Array(57).fill({ width: 4000, height: 4000 }), false],
    ['2,001 pictures of a pixel', Array(2001).fill({ width: 1, height: 1 }), false],
    ['one of 8193 × 8192', [{ width: 8193, height: 8192 }], false],
    ['one of 8192 × 8192', [{ width: 8192, height: 8192 }], true],
    ['300 of 1280 × 720', Array(300).fill({ width: 1280, height: 720 }), true],
    ['none', [], false],
  ])('%s', (_what, sizes, ok) => expect(checkPages(sizes).ok).toBe(ok));

  it('a TIFF of 1,000 small pages is read all at once', async () => {
    const pages = Buffer.alloc(16 * 16 * 1000 * 3).map((_, at) => (at * 31) % 251);
    const tiff = await sharp(pages, { raw: { width: 16, height: 16_000, channels: 3, pageHeight: 16 } })
      .tiff({ compression: 'none' })
      .toBuffer();
    const opened = await openPictures(new Uint8Array(tiff), 'pages.tif');
    if (!opened.ok) throw new Error(opened.reason);
    let count = 0;
    for await (const page of opened.value.pages) count += page.size.width === 16 ? 1 : 0;
    expect(count).toBe(opened.value.count);
  }, 60_000);
});
