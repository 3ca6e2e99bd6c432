import { Uint8ArrayReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { decode } from 'fast-png';
import type { ReadBack, ReadFrame, ReadLoop, ReadPicture } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import { gifPages, readGif } from '@/core/format/gif/readGif';
import { PNG_ADDRESS, readLoopPage } from '@/core/format/page/loopPage';
import { type Apng, apngFramePng, clearApngFrame, layApngFrame, readApng } from '@/core/format/png/apng';
import { isOfByteSamples, readPngSize } from '@/core/format/png/header';
import { saysSrgb } from '@/core/format/png/srgb';
import { readStripJson } from '@/core/format/strip/stripList';
import { type AnimatedWebp, readAnimatedWebp, webpFrame } from '@/core/format/webp/animatedWebp';
import { mustBeDone } from '@/core/outcome';
import { canonicalisePixels } from '@/core/raster/canonical';
import { cropped } from '@/core/raster/changedArea';
import { digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import { signatureOfPixels } from '@/core/raster/pictureSignature';
import { isOpaque } from '@/core/raster/pixelOrder';
import { straightPixels } from '@/workers/output/pictures/straightPng';

/* Loops are opened by what their first bytes say they are, and nothing else is known of them. The size is that of their pictures. */

type Page = { readonly pixels: Uint8Array; readonly isExact: boolean };
type Opened = {
  readonly size: Size;
  readonly loop: ReadLoop;
  readonly colours: string | null;
  readonly pages: AsyncIterable<Page>;
  /** Whether some of its pictures may be held by how they look alone: then all are, also those that kept every pixel. */
  readonly mayBeNear?: true;
};

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

/** The pixels of a PNG of 8 bits a channel, RGBA: by the browser's own decoder where that gives them as they are stored. */
async function rgbaOf(png: Uint8Array): Promise<Uint8Array> {
  const size = readPngSize(png);
  return (size.ok && isOfByteSamples(png) && (await straightPixels(png, size.value))) || rgbaByScript(png);
}

function rgbaByScript(png: Uint8Array): Uint8Array {
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
    layApngFrame(page, apng.size, frame, await rgbaOf(apngFramePng(bytes, apng, frame)));
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
  const loop = { microseconds, plays: webp.plays, colours: null };
  return { size: webp.size, loop, colours: null, pages: webpPages(bytes, webp), mayBeNear: true };
}

/** Pictures that are shown in some order, each decoded when it is needed. */
async function* inOrder(places: readonly number[], picture: (place: number) => Promise<Uint8Array>): AsyncGenerator<Page> {
  for (const place of places) yield { pixels: await picture(place), isExact: true };
}

function openPage(bytes: Uint8Array): Opened {
  const { pictures, shown, plays, width, height } = mustBeDone(readLoopPage(new TextDecoder().decode(bytes)));
  const pixels = async (place: number): Promise<Uint8Array> => {
    const address = pictures[place];
    if (!address?.startsWith(PNG_ADDRESS)) throw new Error(`Picture ${place + 1} of the page is missing.`);
    return rgbaOf(Uint8Array.from(atob(address.slice(PNG_ADDRESS.length)), (letter) => letter.charCodeAt(0)));
  };
  const loop = { microseconds: shown.map(([, time]) => time), plays, colours: null };
  return {
    size: { width, height },
    loop,
    colours: 'sRGB',
    pages: inOrder(
      shown.map(([picture]) => picture),
      pixels,
    ),
  };
}

async function openStrip(bytes: Uint8Array): Promise<Opened> {
  const reader = new ZipReader(new Uint8ArrayReader(bytes), { useWebWorkers: false });
  const entries = await reader.getEntries();
  const read = async (name: string): Promise<Uint8Array> => {
    const entry = entries.find(({ filename }) => filename.endsWith(name));
    if (!entry || entry.directory) throw new Error(`The strip’s ZIP has no ${name}.`);
    return entry.getData(new Uint8ArrayWriter(), { checkSignature: true });
  };
  const list = mustBeDone(readStripJson(new TextDecoder().decode(await read('.json'))));
  const png = await read(list.image);
  await reader.close();
  // Whoever asks for its times alone need not wait until its pictures are unpacked.
  let whole: ReturnType<typeof rgbaOf> | null = null;
  const [first] = list.pictures;
  if (!first) throw new Error('The strip holds no picture.');
  const cut = async (place: number): Promise<Uint8Array> => {
    const area = list.pictures[place];
    if (!area) throw new Error(`Picture ${place + 1} of the strip is missing.`);
    whole ??= rgbaOf(png);
    return cropped(await whole, list, area, 4);
  };
  const loop = { microseconds: list.shown.map(({ microseconds }) => microseconds), plays: list.plays, colours: null };
  const size = { width: first.width, height: first.height };
  return {
    size,
    loop,
    colours: saysSrgb(png) ? 'sRGB' : null,
    pages: inOrder(
      list.shown.map(({ picture }) => picture),
      cut,
    ),
  };
}

/** Opens a loop that is in memory; see `readLoop`. Throws where it is none, or not the whole of one. */
export async function openLoop(bytes: Uint8Array): Promise<Opened> {
  if (bytes[0] === 0x3c) return openPage(bytes);
  if (bytes[0] === 0x50) return openStrip(bytes);
  if (bytes[0] === 0x47) return openGif(bytes);
  return bytes[0] === 0x89 ? openApng(bytes) : openWebp(bytes);
}

async function pictureOf({ size, mayBeNear }: Opened, { pixels, isExact }: Page): Promise<ReadPicture> {
  const signature = () => signatureOfPixels(size.width, size.height, pixels, true);
  if (!isExact) return { kind: 'near', signature: signature(), size };
  return { kind: 'exact', fingerprint: await fingerprintOf(pixels), size, ...(mayBeNear ? { signature: signature() } : {}) };
}

async function* framesOf(opened: Opened, stop: AbortSignal): AsyncGenerator<ReadFrame> {
  for await (const page of opened.pages) {
    stop.throwIfAborted();
    yield { name: null, digest: await digestOfBytes(page.pixels), picture: await pictureOf(opened, page) };
  }
}

/** Opens a GIF, an animated PNG or an animated WebP: its pictures as they are seen one after another, and their times. */
export async function readLoop(file: Blob, stop: AbortSignal): Promise<ReadBack> {
  const opened = await openLoop(new Uint8Array(await file.arrayBuffer()));
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
