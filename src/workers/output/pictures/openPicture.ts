import { decode } from 'fast-png';
import type { ReadPicture } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import { readBmp } from '@/core/format/bmp/readBmp';
import type { Pixels } from '@/core/format/pixels';
import { isOfByteSamples, readPngSize } from '@/core/format/png/header';
import { saysSrgb } from '@/core/format/png/srgb';
import { readTga } from '@/core/format/tga/readTga';
import { readTiff } from '@/core/format/tiff/tiff';
import type { Outcome } from '@/core/outcome';
import { canonicalisePixels } from '@/core/raster/canonical';
import { fingerprintOf } from '@/core/raster/digest';
import { signatureOfPixels } from '@/core/raster/pictureSignature';
import { isOpaque } from '@/core/raster/pixelOrder';
import { unpackedStrips } from '@/workers/output/pictures/packStrips';
import { straightPixels } from '@/workers/output/pictures/straightPng';

/*
 * Picture files are opened by what their names end with, and nothing else is known of them. PNG, TIFF, TGA and BMP are read by
 * their bytes, so that transparency comes as it was stored; JPEG and WebP by the browser.
 */

const mustBeRead = <T>(read: Outcome<T>): T => {
  if (!read.ok) throw new Error(read.reason);
  return read.value;
};

type ExactPicture = Extract<ReadPicture, { kind: 'exact' }>;
const exact = async (rgba: Uint8Array, size: Size): Promise<ExactPicture> => ({
  kind: 'exact',
  fingerprint: await fingerprintOf(rgba),
  size,
});

/** Samples of 16 bits as those of 8 that were made longer. Throws when they are others. */
function shortened(samples: ArrayLike<number>): Uint8Array {
  const short = new Uint8Array(samples.length);
  for (let index = 0; index < short.length; index++) {
    const value = samples[index] as number;
    if (value % 257 !== 0) throw new Error('A picture of 16 bits came back with other samples than were written.');
    short[index] = value / 257;
  }
  return short;
}

/** Pixels of three samples each, opaque, as pixels of four. */
function withAlpha(rgb: Uint8Array, { width, height }: Size): Uint8Array {
  const rgba = new Uint8Array(width * height * 4);
  for (let from = 0, to = 0; to < rgba.length; from += 3, to += 4) {
    rgba[to] = rgb[from] as number;
    rgba[to + 1] = rgb[from + 1] as number;
    rgba[to + 2] = rgb[from + 2] as number;
    rgba[to + 3] = 255;
  }
  return rgba;
}

async function readPng(bytes: Uint8Array): Promise<ReadPicture> {
  const said = isOfByteSamples(bytes) ? readPngSize(bytes) : null;
  const straight = said?.ok ? await straightPixels(bytes, said.value) : null;
  if (said?.ok && straight) return exact(straight, said.value);
  const { width, height, channels, depth, data } = decode(bytes);
  if ((channels !== 3 && channels !== 4) || (depth !== 8 && depth !== 16))
    throw new Error(`A picture came back with ${channels} channels of ${depth} bits.`);
  const samples = depth === 16 ? shortened(data) : new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const size = { width, height };
  return exact(channels === 4 ? samples : withAlpha(samples, size), size);
}

async function readPackedTiff(bytes: Uint8Array): Promise<ReadPicture> {
  const { size, alpha, strips } = mustBeRead(readTiff(bytes));
  const data = await unpackedStrips(strips.map(({ start, end }) => bytes.subarray(start, end)));
  if (alpha !== 'none') return exact(data, size);
  return exact(withAlpha(data, size), size);
}

const byBytes = (read: (bytes: Uint8Array) => Outcome<Pixels>) => (bytes: Uint8Array) => {
  const { size, rgba } = mustBeRead(read(bytes));
  return exact(new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.byteLength), size);
};

/** Pictures that the browser decodes, on one canvas. */
class BrowserReader {
  private context: OffscreenCanvasRenderingContext2D | null = null;

  async pixels(bytes: Uint8Array, type: string): Promise<{ readonly size: Size; readonly rgba: Uint8Array }> {
    const blob = new Blob([bytes as Uint8Array<ArrayBuffer>], { type });
    const bitmap = await createImageBitmap(blob, { colorSpaceConversion: 'none' });
    const { width, height } = bitmap;
    if (this.context?.canvas.width !== width || this.context.canvas.height !== height)
      this.context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (!this.context) throw new Error('There is no memory for a picture of this size.');
    this.context.clearRect(0, 0, width, height);
    this.context.drawImage(bitmap, 0, 0);
    bitmap.close();
    const { data } = this.context.getImageData(0, 0, width, height);
    canonicalisePixels(data);
    return { size: { width, height }, rgba: new Uint8Array(data.buffer) };
  }
}

/** Whether a WebP keeps every pixel (RIFF container, a chunk `VP8L`: RFC 9649). */
const isLossless = (bytes: Uint8Array): boolean => {
  const text = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 12; at + 8 <= bytes.length; ) {
    if (text(at) === 'VP8L') return true;
    const length = view.getUint32(at + 4, true);
    at += 8 + length + (length % 2);
  }
  return false;
};

const browser = new BrowserReader();

/** What lies in a picture file, and what it says of its colours where its kind says anything. */
export type OpenedPicture = { readonly picture: ReadPicture; readonly says: { readonly colours: string | null } | null };

async function pictureIn(bytes: Uint8Array, extension: string): Promise<ReadPicture> {
  switch (extension) {
    case 'png':
      return readPng(bytes);
    case 'tif':
      return readPackedTiff(bytes);
    case 'tga':
      return byBytes(readTga)(bytes);
    case 'bmp':
      return byBytes(readBmp)(bytes);
    case 'webp': {
      const { size, rgba } = await browser.pixels(bytes, 'image/webp');
      const signature = signatureOfPixels(size.width, size.height, rgba, true);
      return isLossless(bytes) && isOpaque(rgba) ? { ...(await exact(rgba, size)), signature } : { kind: 'near', signature, size };
    }
    default: {
      const { size, rgba } = await browser.pixels(bytes, 'image/jpeg');
      return { kind: 'near', signature: signatureOfPixels(size.width, size.height, rgba, false), size };
    }
  }
}

/** Reads a picture file of any kind that is written here. Rejects where its bytes are none. */
export const openPicture = async (bytes: Uint8Array, extension: string): Promise<OpenedPicture> => ({
  picture: await pictureIn(bytes, extension),
  says: extension === 'png' ? { colours: saysSrgb(bytes) ? 'sRGB' : null } : null,
});
