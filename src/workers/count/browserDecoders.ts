import { type Input, type InputVideoTrack, VideoSampleSink } from 'mediabunny';
import { Undecodable } from '@/core/count/readBack';
import { readBmp } from '@/core/format/bmp/readBmp';
import { gifPages, readGif } from '@/core/format/gif/readGif';
import type { Pixels } from '@/core/format/pixels';
import { apngFramePng, clearApngFrame, layApngFrame, readApng } from '@/core/format/png/apng';
import { readPngSize } from '@/core/format/png/header';
import { readTga } from '@/core/format/tga/readTga';
import type { Outcome } from '@/core/outcome';
import { blockGrid } from '@/core/outside/blocks';
import type { OutsideFrame } from '@/core/outside/countOutside';
import { endingOf } from '@/core/outside/pictureKind';
import { fingerprintOf } from '@/core/raster/digest';
import { signatureOfPlanes } from '@/core/raster/signature';
import type { FilmList } from '@/workers/count/openFilm';
import type { Machine } from '@/workers/count/openGroup';
import type { LoopFacts } from '@/workers/count/openLoop';
import { type DecodedPicture, frameOf } from '@/workers/count/openPictures';
import { digestOfStream } from '@/workers/output/fileDigest';
import { PlaneReader } from '@/workers/output/film/framePlanes';
import { readSound } from '@/workers/output/film/readSound';
import { openLoop } from '@/workers/output/loop/readLoop';

/** Every frame a player shows of a film, as this browser decodes it. Throws `Undecodable` where it can't. */
async function* shownFrames(
  input: Input,
  track: InputVideoTrack,
  { shownSeconds, size }: FilmList,
  stop: AbortSignal,
): AsyncGenerator<OutsideFrame> {
  const reader = new PlaneReader();
  const stampOf = (seconds: number) => Math.round(seconds * 1e6);
  const timesShown = new Map<number, number>();
  for (const seconds of shownSeconds) timesShown.set(stampOf(seconds), (timesShown.get(stampOf(seconds)) ?? 0) + 1);
  const grid = blockGrid(size.width + (size.width % 2), size.height + (size.height % 2));
  try {
    if ((await track.getCodec()) === null || !(await track.canDecode())) throw new Error('this browser has no decoder for it');
    // The graphics card's decoder is quicker at watching; here every frame is copied out, which it is slow at.
    for await (const sample of new VideoSampleSink(track, { hardwareAcceleration: 'prefer-software' }).samples()) {
      let frame: OutsideFrame;
      const shown = timesShown.get(stampOf(sample.timestamp)) ?? 0;
      try {
        stop.throwIfAborted();
        if (shown === 0) continue;
        const { data, planes } = await reader.read(sample);
        const end = planes.reduce((most, { offset, stride, height }) => Math.max(most, offset + stride * height), 0);
        const signature = signatureOfPlanes(data, [planes[0], planes[1], planes[2]]);
        frame = {
          kind: 'seen',
          blocks: { ...grid, planes: signature },
          fingerprint: await fingerprintOf(data.subarray(0, end)),
          size,
        };
      } finally {
        sample.close();
      }
      for (let time = 0; time < shown; time++) yield frame;
    }
  } catch (error) {
    if (stop.aborted) throw error;
    throw new Undecodable(error instanceof Error ? error.message : 'its decoder gave no reason');
  } finally {
    input.dispose();
  }
}

const ownReader =
  (read: (bytes: Uint8Array) => Outcome<Pixels>) =>
  (bytes: Uint8Array): DecodedPicture => {
    const { size, rgba } = mustBeRead(read(bytes));
    return { size, rgba: new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.byteLength) };
  };

function mustBeRead<T>(read: Outcome<T>): T {
  if (!read.ok) throw new Error(read.reason);
  return read.value;
}

const readOwnTga = ownReader(readTga);
const readOwnBmp = ownReader(readBmp);

/** A picture that the browser decodes; colours as they are stored. */
async function byBrowser(bytes: Uint8Array): Promise<DecodedPicture> {
  const bitmap = await createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>]), { colorSpaceConversion: 'none' }).catch(() => {
    throw new Error('It is broken, or of a kind this browser doesn’t read: the count command reads more');
  });
  const { width, height } = bitmap;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size');
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  return { size: { width, height }, rgba: new Uint8Array(data.buffer) };
}

/** The one picture of a file, as this browser decodes it. */
export async function decodeInBrowser(bytes: Uint8Array, name: string): Promise<DecodedPicture> {
  if (endingOf(name) === 'tga') return readOwnTga(bytes);
  return bytes[0] === 0x42 && bytes[1] === 0x4d ? readOwnBmp(bytes) : byBrowser(bytes);
}

/** The pictures of an animated PNG: each is a PNG of its own, laid on the page as it says. */
async function* apngPictures(bytes: Uint8Array): AsyncGenerator<DecodedPicture> {
  const apng = mustBeRead(readApng(bytes, mustBeRead(readPngSize(bytes))));
  const { size } = apng;
  const page = new Uint8ClampedArray(size.width * size.height * 4);
  for (const frame of apng.frames) {
    const before = frame.dispose === 'previous' ? page.slice() : null;
    layApngFrame(page, size, frame, (await byBrowser(apngFramePng(bytes, apng, frame))).rgba);
    yield { size, rgba: new Uint8Array(page.slice().buffer) };
    if (frame.dispose === 'background') clearApngFrame(page, size, frame);
    if (before) page.set(before);
  }
}

/** The pictures of a GIF. */
async function* gifPictures(bytes: Uint8Array): AsyncGenerator<DecodedPicture> {
  const gif = mustBeRead(readGif(bytes));
  for (const rgba of gifPages(bytes, gif)) yield { size: gif.size, rgba: rgba.slice() };
}

async function* webpPictures(bytes: Uint8Array): AsyncGenerator<DecodedPicture> {
  const { size, pages } = await openLoop(bytes);
  for await (const { pixels } of pages) yield { size, rgba: pixels.slice() };
}

/** The pictures of a loop as they are seen, one after another. */
function loopPagesInBrowser(bytes: Uint8Array, { made }: LoopFacts): AsyncIterable<DecodedPicture> {
  if (made === 'GIF') return gifPictures(bytes);
  return made === 'APNG' ? apngPictures(bytes) : webpPictures(bytes);
}

/** A browser decodes them beside this, and each takes as much room as it has pixels. */
const PICTURES_AT_ONCE = 4;

/** How this browser decodes all that is counted; `lay` lays pictures on paper, if they are to be taken in another way than their format has it. */
export const inBrowser = (stop: AbortSignal, lay?: (rgba: Uint8Array) => void): Machine => ({
  pictures: { read: async (bytes, name) => frameOf(await decodeInBrowser(bytes, name), lay), atOnce: PICTURES_AT_ONCE },
  loopPages: (bytes, _name, facts) => loopPagesInBrowser(bytes, facts),
  decoders: async (_file, blob) => ({
    frames: (input, track, list) => shownFrames(input, track, list, stop),
    sound: async (input) => readSound(input, blob, /matroska|webm/i.test((await input.getFormat()).name), stop),
    digest: digestOfStream,
  }),
});
