import { decode } from 'fast-png';
import type { ReadBack, ReadFrame, ReadPicture } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import { readBmp } from '@/core/format/bmp/readBmp';
import type { Pixels } from '@/core/format/pixels';
import { saysSrgb } from '@/core/format/png/srgb';
import { readTga } from '@/core/format/tga/readTga';
import { readTiff } from '@/core/format/tiff/tiff';
import type { Outcome } from '@/core/outcome';
import { canonicalisePixels, digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import { signatureOfPixels } from '@/core/raster/pictureSignature';
import { isOpaque } from '@/core/raster/pixelOrder';
import type { Source } from '@/workers/output/outputFormat';

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

/** A sample of 8 bits; one of 16 must be one of 8 that was made longer. */
function sampleOf(value: number, depth: number): number {
  if (depth === 8) return value;
  if (value % 257 !== 0) throw new Error('A picture of 16 bits came back with other samples than were written.');
  return value / 257;
}

async function readPng(bytes: Uint8Array): Promise<ReadPicture> {
  const { width, height, channels, depth, data } = decode(bytes);
  if ((channels !== 3 && channels !== 4) || (depth !== 8 && depth !== 16))
    throw new Error(`A picture came back with ${channels} channels of ${depth} bits.`);
  const rgba = new Uint8Array(width * height * 4);
  for (let pixel = 0; pixel < width * height; pixel++) {
    for (let channel = 0; channel < channels; channel++)
      rgba[pixel * 4 + channel] = sampleOf(data[pixel * channels + channel] as number, depth);
    if (channels === 3) rgba[pixel * 4 + 3] = 255;
  }
  return exact(rgba, { width, height });
}

async function readPackedTiff(bytes: Uint8Array): Promise<ReadPicture> {
  const { size, alpha, stripStart, stripEnd } = mustBeRead(readTiff(bytes));
  const strip = new Blob([bytes.slice(stripStart, stripEnd)]).stream().pipeThrough(new DecompressionStream('deflate'));
  const data = new Uint8Array(await new Response(strip).arrayBuffer());
  if (alpha !== 'none') return exact(data, size);
  const rgba = new Uint8Array(size.width * size.height * 4).fill(255);
  for (let from = 0, to = 0; from < data.length; from += 3, to += 4) rgba.set(data.subarray(from, from + 3), to);
  return exact(rgba, size);
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

/** Reads picture files of every kind that is written here. */
class PictureReader {
  private readonly browser = new BrowserReader();
  private readonly said = new Set<string | null>();

  /** What all the pictures that were read say of their colours; null where they say nothing, or not the same. */
  colours(): string | null {
    return this.said.size === 1 ? ([...this.said][0] ?? null) : null;
  }

  async read(bytes: Uint8Array, extension: string): Promise<ReadPicture> {
    switch (extension) {
      case 'png':
        this.said.add(saysSrgb(bytes) ? 'sRGB' : null);
        return readPng(bytes);
      case 'tif':
        return readPackedTiff(bytes);
      case 'tga':
        return byBytes(readTga)(bytes);
      case 'bmp':
        return byBytes(readBmp)(bytes);
      case 'webp': {
        const { size, rgba } = await this.browser.pixels(bytes, 'image/webp');
        const signature = signatureOfPixels(size.width, size.height, rgba, true);
        return isLossless(bytes) && isOpaque(rgba) ? { ...(await exact(rgba, size)), signature } : { kind: 'near', signature, size };
      }
      default: {
        const { size, rgba } = await this.browser.pixels(bytes, 'image/jpeg');
        return { kind: 'near', signature: signatureOfPixels(size.width, size.height, rgba, false), size };
      }
    }
  }
}

const EXTENSIONS = new Set(['png', 'jpg', 'webp', 'tif', 'tga', 'bmp']);
const extensionOf = (name: string): string => /\.([^.]+)$/.exec(name)?.[1]?.toLowerCase() ?? '';

/** Opens picture files in the order they lie there. */
export function readPictures(source: Source, stop: AbortSignal): ReadBack {
  if (source.kind !== 'files') throw new Error('This format is picture files.');
  const reader = new PictureReader();
  return {
    size: null,
    times: null,
    packetDigests: null,
    decoderDigest: null,
    colours: () => reader.colours(),
    sound: null,
    keyFrames: null,
    loop: null,
    frames: readInOrder(source, reader, stop),
  };
}

async function* readInOrder(source: Source & { kind: 'files' }, reader: PictureReader, stop: AbortSignal): AsyncGenerator<ReadFrame> {
  const known = new Map<string, { picture: ReadPicture; digest: string }>();
  for (const name of source.names) {
    const extension = extensionOf(name);
    if (!EXTENSIONS.has(extension)) continue;
    stop.throwIfAborted();
    const bytes = await source.read(name);
    const key = await fingerprintOf(bytes);
    let read = known.get(key);
    if (!read) {
      read = { picture: await reader.read(bytes, extension), digest: await digestOfBytes(bytes) };
      known.set(key, read);
    }
    yield { name, ...read };
  }
}
