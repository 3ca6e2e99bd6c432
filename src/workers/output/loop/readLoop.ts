import { decode } from 'fast-png';
import type { ReadBack, ReadFrame, ReadLoop } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import { gifPages, readGif } from '@/core/format/gif/readGif';
import { type Apng, apngFramePng, clearApngFrame, layApngFrame, readApng } from '@/core/format/png/apng';
import { readPngSize } from '@/core/format/png/header';
import { saysSrgb } from '@/core/format/png/srgb';
import { type AnimatedWebp, readAnimatedWebp, webpFrame } from '@/core/format/webp/animatedWebp';
import { mustBeDone } from '@/core/outcome';
import { canonicalisePixels, digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import { signatureOfPixels } from '@/core/raster/pictureSignature';
import { isOpaque } from '@/core/raster/pixelOrder';

/* Loops are opened by what their first bytes say they are, and nothing else is known of them. */

type Page = { readonly pixels: Uint8Array; readonly isExact: boolean };
type Opened = { readonly size: Size; readonly loop: ReadLoop; readonly colours: string | null; readonly pages: AsyncIterable<Page> };

async function* inTurn(pages: Iterable<Uint8Array>): AsyncGenerator<Page> {
  for (const pixels of pages) yield { pixels, isExact: true };
}

function openGif(bytes: Uint8Array): Opened {
  const gif = mustBeDone(readGif(bytes));
  if (!gif.isWhole) throw new Error('The GIF ends before it says so.');
  const microseconds = gif.frames.map(({ centiseconds }) => centiseconds * 10_000);
  const colours = Math.max(0, ...gif.frames.map(({ palette }) => palette.colours));
  return { size: gif.size, loop: { microseconds, plays: gif.plays, colours }, colours: null, pages: inTurn(gifPages(bytes, gif)) };
}

/** The pixels of a PNG of 8 bits a channel, RGBA. */
function rgbaOf(png: Uint8Array): Uint8Array {
  const { width, height, channels, depth, data } = decode(png);
  if ((channels !== 3 && channels !== 4) || depth !== 8) throw new Error(`A picture came back with ${channels} channels of ${depth} bits.`);
  if (channels === 4) return new Uint8Array(data);
  const rgba = new Uint8Array(width * height * 4).fill(255);
  for (let from = 0, to = 0; from < data.length; from += 3, to += 4) {
    rgba[to] = data[from] as number;
    rgba[to + 1] = data[from + 1] as number;
    rgba[to + 2] = data[from + 2] as number;
  }
  return rgba;
}

async function* apngPages(bytes: Uint8Array, apng: Apng): AsyncGenerator<Page> {
  const page = new Uint8ClampedArray(apng.size.width * apng.size.height * 4);
  for (const frame of apng.frames) {
    const before = frame.dispose === 'previous' ? page.slice() : null;
    layApngFrame(page, apng.size, frame, rgbaOf(apngFramePng(bytes, apng, frame)));
    yield { pixels: new Uint8Array(page.buffer), isExact: true };
    if (frame.dispose === 'background') clearApngFrame(page, apng.size, frame);
    if (before) page.set(before);
  }
}

function openApng(bytes: Uint8Array): Opened {
  const apng = mustBeDone(readApng(bytes, mustBeDone(readPngSize(bytes))));
  if (!apng.isWhole) throw new Error('The PNG ends before it says so.');
  const microseconds = apng.frames.map(({ delay }) => Math.round((delay.num * 1_000_000) / delay.den));
  return {
    size: apng.size,
    loop: { microseconds, plays: apng.plays, colours: null },
    colours: saysSrgb(bytes) ? 'sRGB' : null,
    pages: apngPages(bytes, apng),
  };
}

const isLossless = (webp: Uint8Array): boolean => String.fromCharCode(...webp.subarray(12, 16)) === 'VP8L';

async function* webpPages(bytes: Uint8Array, webp: AnimatedWebp): AsyncGenerator<Page> {
  const { width, height } = webp.size;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  let isExact = true;
  for (const frame of webp.frames) {
    const { x, y } = frame.area;
    const own = webpFrame(bytes, frame);
    isExact &&= isLossless(own);
    const bitmap = await createImageBitmap(new Blob([own as Uint8Array<ArrayBuffer>], { type: 'image/webp' }), {
      colorSpaceConversion: 'none',
    });
    if (!frame.isBlended) context.clearRect(x, y, frame.area.width, frame.area.height);
    context.drawImage(bitmap, x, y);
    bitmap.close();
    const { data } = context.getImageData(0, 0, width, height);
    canonicalisePixels(data);
    const pixels = new Uint8Array(data.buffer);
    yield { pixels, isExact: isExact && isOpaque(pixels) };
    if (frame.isCleared) context.clearRect(x, y, frame.area.width, frame.area.height);
  }
}

function openWebp(bytes: Uint8Array): Opened {
  const webp = mustBeDone(readAnimatedWebp(bytes));
  if (!webp.isWhole) throw new Error('The WebP ends before it says so.');
  const microseconds = webp.frames.map(({ milliseconds }) => milliseconds * 1000);
  return { size: webp.size, loop: { microseconds, plays: webp.plays, colours: null }, colours: null, pages: webpPages(bytes, webp) };
}

/** Opens a loop that is in memory; see `readLoop`. Throws where it is none, or not the whole of one. */
export function openLoop(bytes: Uint8Array): Opened {
  if (bytes[0] === 0x47) return openGif(bytes);
  return bytes[0] === 0x89 ? openApng(bytes) : openWebp(bytes);
}

async function* framesOf({ size, pages }: Opened, stop: AbortSignal): AsyncGenerator<ReadFrame> {
  for await (const { pixels, isExact } of pages) {
    stop.throwIfAborted();
    const digest = await digestOfBytes(pixels);
    const signature = () => signatureOfPixels(size.width, size.height, pixels, true);
    yield isExact
      ? { name: null, digest, picture: { kind: 'exact', fingerprint: await fingerprintOf(pixels), size } }
      : { name: null, digest, picture: { kind: 'near', signature: signature(), size } };
  }
}

/** Opens a GIF, an animated PNG or an animated WebP: its pictures as they are seen one after another, and their times. */
export async function readLoop(file: Blob, stop: AbortSignal): Promise<ReadBack> {
  const opened = openLoop(new Uint8Array(await file.arrayBuffer()));
  return {
    size: opened.size,
    times: null,
    packetDigests: null,
    decoderDigest: null,
    colours: () => opened.colours,
    loop: opened.loop,
    sound: null,
    keyFrames: null,
    frames: framesOf(opened, stop),
  };
}
