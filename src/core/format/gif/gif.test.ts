import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { gifPages, readGif } from '@/core/format/gif/readGif';
import { GIF_END, gifHead, gifPicture } from '@/core/format/gif/writeGif';
import { mustBeDone } from '@/core/outcome';
import { inPalette } from '@/core/raster/dither';
import { type Colour, ColourCount } from '@/core/raster/palette';
import type { PixelOrder } from '@/core/raster/yuv';
import { record } from '@/core/testing/record';

/* What is written is read by the reader here, which shares no code with the encoder, by an image library and by ffmpeg. */

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-gif-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Pictures of random colours from a few, the first whole and the others a rectangle each. */
type Made = { readonly gif: Uint8Array; readonly pages: readonly Uint8Array[]; readonly centiseconds: readonly number[] };

const PALETTE: readonly Colour[] = [0x102030, 0xf0e0d0, 0x40c040, 0xa00020, 0x0000ff];
/** The index of none of the colours. */
const TRANSPARENT = PALETTE.length;

function makeGif(size: Size, pictures: number, plays: number, seed: number): Made {
  let state = seed;
  const random = (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
  const page = new Uint8Array(size.width * size.height * 4);
  const parts: Uint8Array[] = [gifHead(size, [...PALETTE, 0], plays)];
  const pages: Uint8Array[] = [];
  const centiseconds: number[] = [];
  for (let picture = 0; picture < pictures; picture++) {
    const [x, y] = picture === 0 ? [0, 0] : [random(size.width), random(size.height)];
    const [width, height] = picture === 0 ? [size.width, size.height] : [1 + random(size.width - x), 1 + random(size.height - y)];
    const run = 1 + random(40);
    const indices = Uint8Array.from({ length: width * height }, (_, pixel) =>
      picture > 0 && pixel % 3 === 0 ? TRANSPARENT : Math.floor(pixel / run) % PALETTE.length,
    );
    for (const [pixel, index] of indices.entries()) {
      if (index === TRANSPARENT) continue;
      const colour = PALETTE[index] as Colour;
      page.set(
        [colour >> 16, (colour >> 8) & 255, colour & 255, 255],
        ((y + Math.floor(pixel / width)) * size.width + x + (pixel % width)) * 4,
      );
    }
    const time = 2 + random(50);
    const stored = { area: { x, y, width, height }, indices, palette: null, colours: PALETTE.length + 1, transparent: TRANSPARENT };
    parts.push(gifPicture({ ...stored, centiseconds: time, disposal: 1 }));
    pages.push(page.slice());
    centiseconds.push(time);
  }
  return { gif: inOne([...parts, GIF_END]), pages, centiseconds };
}

describe('a GIF', () => {
  it('comes back with its pictures, their times and how often it is played', () => {
    const cases = record({
      width: fc.integer({ min: 1, max: 90 }),
      height: fc.integer({ min: 1, max: 70 }),
      pictures: fc.integer({ min: 1, max: 8 }),
      plays: fc.constantFrom(0, 1, 2, 7, 65_535),
      seed: fc.nat(),
    });
    fc.assert(
      fc.property(cases, ({ width, height, pictures, plays, seed }) => {
        const size = { width, height };
        const made = makeGif(size, pictures, plays, seed);
        const gif = mustBeDone(readGif(made.gif));
        expect(gif).toMatchObject({ size, plays, isWhole: true });
        expect(gif.frames.map(({ centiseconds }) => centiseconds)).toEqual(made.centiseconds);
        expect([...gifPages(made.gif, gif)].map(() => 0)).toHaveLength(pictures);
        let place = 0;
        for (const page of gifPages(made.gif, gif)) expect(page).toEqual(made.pages[place++]);
      }),
      { numRuns: 60 },
    );
  });

  it('is read alike by an image library', async () => {
    const size = { width: 61, height: 37 };
    const made = makeGif(size, 6, 0, 5);
    const { data, info } = await sharp(Buffer.from(made.gif), { animated: true }).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    expect(info).toMatchObject({ width: 61, height: 37 * 6, channels: 4 });
    const pageBytes = size.width * size.height * 4;
    for (const [place, page] of made.pages.entries())
      expect(new Uint8Array(data.subarray(place * pageBytes, (place + 1) * pageBytes))).toEqual(page);
    const { delay, loop } = await sharp(Buffer.from(made.gif), { animated: true }).metadata();
    expect(delay).toEqual(made.centiseconds.map((time) => time * 10));
    expect(loop).toBe(0);
  });

  it('is read alike by ffmpeg, which is told of the times as well', () => {
    const made = makeGif({ width: 48, height: 30 }, 5, 0, 11);
    const file = path.join(folder, 'read.gif');
    writeFileSync(file, made.gif);
    const told = execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'packet=duration_time', '-of', 'csv=p=0', file], {
      encoding: 'utf8',
    });
    expect(
      told
        .trim()
        .split('\n')
        .map((time) => Math.round(Number.parseFloat(time) * 100)),
    ).toEqual(made.centiseconds);
  });

  it('made by ffmpeg is read here, interlaced or not', async () => {
    const file = path.join(folder, 'theirs.gif');
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc=s=64x48:r=10:d=1', '-loop', '0', file]);
    const bytes = new Uint8Array(await sharp(file, { animated: true }).raw().toBuffer());
    const raw = await import('node:fs/promises').then(({ readFile }) => readFile(file));
    const gif = mustBeDone(readGif(new Uint8Array(raw)));
    expect(gif).toMatchObject({ size: { width: 64, height: 48 }, plays: 0, isWhole: true });
    expect(gif.frames).toHaveLength(10);
    const channels = bytes.length / (64 * 48 * 10);
    let place = 0;
    for (const page of gifPages(new Uint8Array(raw), gif)) {
      for (let pixel = 0; pixel < 64 * 48; pixel++)
        for (let channel = 0; channel < 3; channel++)
          if (page[pixel * 4 + channel] !== bytes[(place * 64 * 48 + pixel) * channels + channel])
            throw new Error(`Picture ${place}, pixel ${pixel}`);
      place++;
    }
  });

  it('that is cut anywhere says so or gives what there is; one that is none is refused', () => {
    const { gif } = makeGif({ width: 20, height: 12 }, 3, 0, 3);
    for (let end = 0; end < gif.length; end++) {
      const cut = gif.slice(0, end);
      const read = readGif(cut);
      if (!read.ok) continue;
      expect(read.value.isWhole, `cut at ${end}`).toBe(false);
      for (const page of gifPages(cut, read.value)) expect(page).toHaveLength(20 * 12 * 4);
    }
    expect(readGif(new TextEncoder().encode('no picture at all'))).toEqual({ ok: false, reason: 'It is not a GIF.' });
  });
});

describe('a palette', () => {
  const pixelsOf = (colours: readonly Colour[], order: PixelOrder = 'RGBA') => ({
    pixels: Uint8Array.from(
      colours.flatMap((colour) => {
        const [r, g, b] = [colour >> 16, (colour >> 8) & 255, colour & 255];
        return order === 'RGBA' ? [r, g, b, 255] : [b, g, r, 255];
      }),
    ),
    order,
  });

  it('is the colours there are, wherever there are no more than asked for', () => {
    const count = new ColourCount();
    count.take(pixelsOf([0x010203, 0x040506, 0x010203]));
    expect(count.palette(2)).toEqual([0x010203, 0x040506]);
  });

  it('has at most so many colours else, and loses none that are few but far from the others', () => {
    const count = new ColourCount();
    const greys = Array.from({ length: 200 }, (_, grey) => (grey << 16) | (grey << 8) | grey);
    count.take(pixelsOf([...Array.from({ length: 40 }, () => greys).flat(), 0xff0000]));
    const palette = count.palette(16);
    expect(palette.length).toBeLessThanOrEqual(16);
    expect(palette.some((colour) => colour >> 16 > 200 && (colour & 255) < 60)).toBe(true);
  });

  it('is the same from pixels in either order', () => {
    const count = new ColourCount();
    count.take(pixelsOf([0x010203, 0x040506, 0x010203], 'BGRA'));
    expect(count.palette(2)).toEqual([0x010203, 0x040506]);
  });

  describe.each(['RGBA', 'BGRA'] as const)('for pixels %s', (order) => {
    it.each(['off', 'ordered', 'diffused'] as const)('leaves colours it has as they are, clear pixels clear (%s)', (dither) => {
      const size = { width: 4, height: 2 };
      const wanted = [0, 1, 2, 3, 4, 3, 2, 1];
      const picture = pixelsOf(
        wanted.map((index) => PALETTE[index] as Colour),
        order,
      );
      picture.pixels.fill(0, 8, 12);
      const meant = pixelsOf(wanted.map((index) => PALETTE[index] as Colour)).pixels.fill(0, 8, 12);
      const { indices, words } = inPalette(picture, size, PALETTE, dither);
      expect([...indices]).toEqual(wanted.with(2, PALETTE.length));
      expect(new Uint8Array(words.buffer, words.byteOffset, words.byteLength)).toEqual(meant);
    });
  });

  it('takes the nearest colour for each pixel, in short runs and long ones', () => {
    const colours = fc.array(fc.tuple(fc.nat(0xffffff), fc.integer({ min: 1, max: 40 })), { minLength: 1, maxLength: 20 });
    fc.assert(
      fc.property(colours, fc.constantFrom<PixelOrder>('RGBA', 'BGRA'), (runs, order) => {
        const pixels = runs.flatMap(([colour, length]) => Array.from({ length }, () => colour));
        const parts = (colour: Colour) => [colour >> 16, (colour >> 8) & 255, colour & 255];
        const apart = (a: Colour, b: Colour) =>
          parts(a).reduce((sum, part, channel) => sum + (part - (parts(b)[channel] as number)) ** 2, 0);
        const wanted = pixels.map((colour) => {
          const distances = PALETTE.map((other) => apart(colour, other));
          return distances.indexOf(Math.min(...distances));
        });
        const { indices, words } = inPalette(pixelsOf(pixels, order), { width: pixels.length, height: 1 }, PALETTE, 'off');
        expect([...indices]).toEqual(wanted);
        const meant = pixelsOf(wanted.map((index) => PALETTE[index] as Colour)).pixels;
        expect(new Uint8Array(words.buffer, words.byteOffset, words.byteLength)).toEqual(meant);
      }),
    );
  });

  it.each(['ordered', 'diffused'] as const)('is mixed to the shade between two colours (%s)', (dither) => {
    const size = { width: 64, height: 64 };
    const grey = pixelsOf(Array.from({ length: 64 * 64 }, () => 0x404040));
    const white = [...inPalette(grey, size, [0x000000, 0xffffff], dither).indices].filter((index) => index === 1).length;
    expect(white / (64 * 64)).toBeCloseTo(64 / 255, 1);
  });
});
