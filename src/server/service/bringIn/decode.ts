import { hasPngSignature } from 'fast-png';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { LARGEST_PICTURE_BYTES, MOST_PICTURE_PIXELS } from '@/core/document/size';
import { looksLikeBmp, readBmp } from '@/core/format/bmp/readBmp';
import type { Pixels } from '@/core/format/pixels';
import { isAnimatedPng } from '@/core/format/png/apng';
import { changesColours } from '@/core/format/png/chunks';
import { looksLikeTga, readTga } from '@/core/format/tga/readTga';
import { done, type Outcome, refused } from '@/core/outcome';
import { readAnimatedPng } from '@/server/service/bringIn/apng';
import { readOpenRaster } from '@/server/service/bringIn/openRaster';
import { checkPages, type DecodedFile, onePage, type Page } from '@/server/service/bringIn/pages';

const KINDS: Readonly<Record<string, string>> = { png: 'PNG', jpeg: 'JPEG', webp: 'WebP', gif: 'GIF', tiff: 'TIFF' };

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

const single = (kind: string, name: string, read: Outcome<Pixels>): Outcome<DecodedFile> =>
  read.ok ? done({ kind, isLayered: false, count: 1, pages: onePage({ ...read.value, name, delayMilliseconds: null, png: null }) }) : read;

/** How many pixels are decoded at once of a file with many pictures: each time it is read from its beginning. */
const PIXELS_AT_ONCE = 16_000_000;

const straight = (image: Sharp) => image.toColourspace('srgb').ensureAlpha().raw({ depth: 'uchar' });

/** Several pictures of one size at once: they come below each other. */
async function* animatedPages(bytes: Uint8Array, meta: Metadata, count: number, nameOf: (page: number) => string): AsyncGenerator<Page> {
  const size = { width: meta.width, height: meta.pageHeight ?? meta.height };
  const pageBytes = size.width * size.height * 4;
  const atOnce = Math.max(1, Math.floor(PIXELS_AT_ONCE / (size.width * size.height)));
  for (let first = 0; first < count; first += atOnce) {
    const pages = Math.min(atOnce, count - first);
    const data = await straight(sharp(bytes, { failOn: 'error', limitInputPixels: false, page: first, pages })).toBuffer();
    for (let index = 0; index < pages; index++) {
      const page = first + index;
      const start = data.byteOffset + index * pageBytes;
      const delayMilliseconds = meta.format === 'tiff' ? null : (meta.delay?.[page] ?? 0);
      yield { name: nameOf(page), delayMilliseconds, png: null, size, rgba: new Uint8ClampedArray(data.buffer, start, pageBytes).slice() };
    }
  }
}

/** Pictures one by one: each may have a size of its own. */
async function* singlePages(bytes: Uint8Array, meta: Metadata, count: number, nameOf: (page: number) => string): AsyncGenerator<Page> {
  for (let page = 0; page < count; page++) {
    const image = sharp(bytes, { failOn: 'error', limitInputPixels: MOST_PICTURE_PIXELS, page, pages: 1 }).autoOrient();
    const { data, info } = await straight(image).toBuffer({ resolveWithObject: true });
    const isPlain = meta.format === 'png' && count === 1 && meta.depth === 'uchar' && !meta.orientation && info.width === meta.width;
    const isWholePng = isPlain && !changesColours(bytes);
    yield {
      name: nameOf(page),
      delayMilliseconds: null,
      png: isWholePng ? bytes : null,
      size: { width: info.width, height: info.height },
      rgba: new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength),
    };
  }
}

/** Whether all pictures of a file with several have one size, so that they can be read below each other. */
async function areAlike(bytes: Uint8Array, count: number): Promise<boolean> {
  if (count === 1) return false;
  return sharp(bytes, { limitInputPixels: false, pages: -1 })
    .metadata()
    .then(
      (all) => all.pageHeight !== undefined && all.height === all.pageHeight * count,
      () => false,
    );
}

/** The sizes of a TIFF's pictures, which may differ; of every other kind they are alike. */
async function sizesOf(bytes: Uint8Array, meta: Metadata, count: number, alike: boolean) {
  const first = { width: meta.width, height: meta.pageHeight ?? meta.height };
  if (meta.format !== 'tiff' || alike || count === 1) return Array.from({ length: count }, () => first);
  const sizes = [];
  for (let page = 0; page < count; page++) {
    const each = await sharp(bytes, { limitInputPixels: false, page }).metadata();
    sizes.push({ width: each.width, height: each.height });
  }
  return sizes;
}

/** PNG, JPEG, WebP, GIF and TIFF, with all their pictures and times. */
async function readCommon(bytes: Uint8Array, name: string): Promise<Outcome<DecodedFile>> {
  const meta = await sharp(bytes, { failOn: 'error', limitInputPixels: false }).metadata();
  const kind = KINDS[meta.format ?? ''];
  if (!kind) return refused(`A picture of the kind “${meta.format}” is not read.`);
  const count = meta.pages ?? 1;
  // Counted before their sizes are looked at one by one.
  const counted = checkPages([{ width: meta.width, height: meta.pageHeight ?? meta.height }]);
  if (!counted.ok) return counted;
  const alike = await areAlike(bytes, count);
  const checked = checkPages(await sizesOf(bytes, meta, Math.min(count, 2001), alike));
  if (!checked.ok) return checked;
  const isAnimated = count > 1 && meta.format !== 'tiff';
  const nameOf = (page: number) => (count === 1 ? name : `${name} ${page + 1}`);
  return done({
    kind: isAnimated ? `animated ${kind}` : kind,
    isLayered: false,
    count,
    pages: alike ? animatedPages(bytes, meta, count, nameOf) : singlePages(bytes, meta, count, nameOf),
  });
}

/** What to say of a file that a decoder gave up on. */
export const brokenWords = (error: unknown): string =>
  `It is broken: ${error instanceof Error ? (error.message.split('\n')[0] ?? '') : 'it can’t be unpacked'}.`;

/**
 * Opens a picture file by what it holds, whatever it is called: PNG, JPEG, WebP, GIF, animated PNG, WebP and
 * GIF, TIFF, BMP, TGA, OpenRaster. Refuses everything else, and what is broken or too large, with a sentence;
 * what all its pictures come to together is looked at before any is decoded.
 */
export async function openPictures(bytes: Uint8Array, fileName: string): Promise<Outcome<DecodedFile>> {
  if (bytes.byteLength > LARGEST_PICTURE_BYTES)
    return refused(`The file has ${(bytes.byteLength / 1024 / 1024).toFixed(1)} MiB; 64 MiB is the most that is brought in.`);
  if (bytes.byteLength === 0) return refused('The file is empty.');
  const name = fileName.replace(/\.[^.]*$/, '');
  try {
    if (isZip(bytes)) return await readOpenRaster(bytes);
    if (hasPngSignature(bytes) && isAnimatedPng(bytes)) return readAnimatedPng(bytes, name);
    if (looksLikeBmp(bytes)) return single('BMP', name, readBmp(bytes));
    const isCommon = await sharp(bytes, { limitInputPixels: false })
      .metadata()
      .then(
        () => true,
        () => false,
      );
    if (isCommon) return await readCommon(bytes, name);
    if (looksLikeTga(bytes)) return single('TGA', name, readTga(bytes));
  } catch (error) {
    return refused(brokenWords(error));
  }
  return refused('It is not a picture that can be read: PNG, JPEG, WebP, GIF, TIFF, TGA, BMP or OpenRaster.');
}
