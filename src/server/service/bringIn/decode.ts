import { decodeApng, hasPngSignature } from 'fast-png';
import sharp from 'sharp';
import { looksLikeBmp, readBmp } from '@/core/format/bmp/readBmp';
import type { Pixels } from '@/core/format/pixels';
import { readPngSize } from '@/core/format/png/header';
import { looksLikeTga, readTga } from '@/core/format/tga/readTga';
import { done, type Outcome, refused } from '@/core/outcome';
import { checkSize, LARGEST_PICTURE_BYTES } from '@/core/sheet/size';
import { readOpenRaster } from '@/server/service/bringIn/openRaster';
import { type DecodedFile, MOST_FILE_PIXELS, MOST_PAGES, type Page } from '@/server/service/bringIn/pages';

const KINDS: Readonly<Record<string, string>> = { png: 'PNG', jpeg: 'JPEG', webp: 'WebP', gif: 'GIF', tiff: 'TIFF' };

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/** Whether a PNG holds an animation: an acTL chunk before its pixels (W3C PNG Third Edition, 11.3.3.2). */
function isAnimatedPng(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 8; at + 8 <= bytes.byteLength; at += view.getUint32(at) + 12) {
    const type = view.getUint32(at + 4);
    if (type === 0x6163544c) return true;
    if (type === 0x49444154) return false;
  }
  return false;
}

const single = (kind: string, name: string, read: Outcome<Pixels>): Outcome<DecodedFile> =>
  read.ok ? done({ kind, isLayered: false, pages: [{ ...read.value, name, delayMilliseconds: null, png: null }] }) : read;

function checkPages(count: number, width: number, height: number): Outcome<null> {
  const size = checkSize(width, height);
  if (!size.ok) return size;
  if (count > MOST_PAGES) return refused(`The file holds ${count} pictures; ${MOST_PAGES} is the most that is brought in from one.`);
  if (count * width * height > MOST_FILE_PIXELS)
    return refused(`The file holds ${count} pictures of ${width} × ${height} px, more than fits here at once: save it in parts.`);
  return done(null);
}

/** Straight RGBA of any number of channels and depth that the PNG reader gives. */
function toRgba(data: ArrayLike<number>, channels: number, depth: number): Uint8ClampedArray {
  const pixels = data.length / channels;
  const rgba = new Uint8ClampedArray(pixels * 4);
  const to8 = (value: number) => (depth === 16 ? Math.round(value / 257) : value);
  for (let index = 0; index < pixels; index++) {
    const at = (channel: number) => to8(data[index * channels + channel] as number);
    const grey = channels < 3;
    rgba.set([at(0), grey ? at(0) : at(1), grey ? at(0) : at(2), channels % 2 === 0 ? at(channels - 1) : 255], index * 4);
  }
  return rgba;
}

/** An animated PNG's pictures with their own times. */
function readAnimatedPng(bytes: Uint8Array, name: string): Outcome<DecodedFile> {
  const said = readPngSize(bytes);
  if (!said.ok) return said;
  const { width, height, frames, channels, depth, palette } = decodeApng(bytes);
  if (palette) return refused('It is an animated PNG with a palette, which is not read: save it in full colour.');
  const checked = checkPages(frames.length, width, height);
  if (!checked.ok) return checked;
  // delay_num / delay_den seconds; a denominator of 0 stands for 100 (W3C PNG Third Edition, 11.3.3.3).
  const pages = frames.map(
    (frame, index): Page => ({
      name: `${name} ${index + 1}`,
      delayMilliseconds: Math.round((frame.delayNumber * 1000) / (frame.delayDenominator || 100)),
      png: null,
      size: { width, height },
      rgba: toRgba(frame.data, channels, depth),
    }),
  );
  return done({ kind: 'animated PNG', isLayered: false, pages });
}

/** PNG, JPEG, WebP, GIF and TIFF, with all their pictures and times. */
async function readCommon(bytes: Uint8Array, name: string): Promise<Outcome<DecodedFile>> {
  const meta = await sharp(bytes, { failOn: 'error', limitInputPixels: false }).metadata();
  const kind = KINDS[meta.format ?? ''];
  if (!kind) return refused(`A picture of the kind “${meta.format}” is not read.`);
  const count = meta.pages ?? 1;
  const checked = checkPages(count, meta.width ?? 0, meta.pageHeight ?? meta.height ?? 0);
  if (!checked.ok) return checked;
  const isAnimated = count > 1 && meta.format !== 'tiff';
  const pages: Page[] = [];
  for (let page = 0; page < count; page++) {
    const { data, info } = await sharp(bytes, { failOn: 'error', page, pages: 1 })
      .autoOrient()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    const isWholePng = meta.format === 'png' && count === 1 && meta.depth === 'uchar' && !meta.orientation && info.width === meta.width;
    pages.push({
      name: count === 1 ? name : `${name} ${page + 1}`,
      delayMilliseconds: isAnimated ? (meta.delay?.[page] ?? 0) : null,
      png: isWholePng ? bytes : null,
      size: { width: info.width, height: info.height },
      rgba: new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength),
    });
  }
  return done({ kind: isAnimated ? `animated ${kind}` : kind, isLayered: false, pages });
}

/**
 * Decodes a picture file by what it holds, whatever it is called: PNG, JPEG, WebP, GIF, animated PNG, WebP and
 * GIF, TIFF, BMP, TGA, OpenRaster. Refuses everything else, and what is broken or too large, with a sentence.
 */
export async function decodePictures(bytes: Uint8Array, fileName: string): Promise<Outcome<DecodedFile>> {
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
    return refused(`It is broken: ${error instanceof Error ? (error.message.split('\n')[0] ?? '') : 'it can’t be unpacked'}.`);
  }
  return refused('It is no picture of a kind that is read: PNG, JPEG, WebP, GIF, TIFF, TGA, BMP or OpenRaster.');
}
