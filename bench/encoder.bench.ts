import { rm } from 'node:fs/promises';
import sharp from 'sharp';
import { makeProject, pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { i420Bytes, pixelsToI420 } from '../src/core/raster/yuv';
import { handOver, openKeptBrowser } from './browser';
import { print, quantile } from './figure';

/*
 * A film on twos, written as a person would, against the browser's encoder alone, given the same frames as planes that were made
 * before, with the same settings and as many in its queue; and against the encoder with a decoder behind it that decodes every
 * packet, since a film is counted while it is written. Medians of three, side by side.
 */

const SIZE = { width: 1280, height: 720 };
const [FRAMES, HOLD, KEY_FRAMES_EVERY] = [Number(process.env.FRAMES ?? 1530), 2, 48];
/** So many pictures are held as planes and come again and again; more would take gigabytes. */
const MOST_PLANES = 150;
const ROUNDS = Number(process.env.ROUNDS ?? 3);
/** What the media library makes of the starting settings of an MP4 of this size, in bits a second. */
const BITRATE = 2_829_000;

type Planes = Window & { planes?: Uint8Array<ArrayBuffer>[] };

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openKeptBrowser();
try {
  const film = { title: 'Encoder', rate: { num: 24, den: 1 }, size: SIZE, frames: FRAMES };
  const id = await makeProject(server.url, film, { drawings: FRAMES / HOLD, hold: HOLD });
  const [page, lone] = [await browser.newPage(), await browser.newPage()];
  // The compiler names functions through a helper that a page does not have.
  for (const each of [page, lone]) await each.addInitScript('globalThis.__name = (named) => named');
  await lone.goto(server.url);
  const planesOf = async (picture: number): Promise<Buffer> => {
    const svg = Buffer.from(pictureSvg(picture, 0, SIZE));
    const rgba = await sharp(svg).flatten({ background: '#ffffff' }).ensureAlpha().raw().toBuffer();
    const room = new Uint8Array(i420Bytes(SIZE.width, SIZE.height));
    pixelsToI420(SIZE.width, SIZE.height, new Uint8Array(rgba), 'RGBA', room);
    return Buffer.from(room);
  };
  await lone.route('**/planes-*', async (route) =>
    route.fulfill({ body: await planesOf(Number(/(\d+)$/.exec(route.request().url())?.[1] ?? 0)) }),
  );
  await lone.evaluate(
    async (pictures) => {
      const planes: Uint8Array<ArrayBuffer>[] = [];
      for (let picture = 0; picture < pictures; picture++)
        planes.push(new Uint8Array(await (await fetch(`/planes-${picture}`)).arrayBuffer()));
      (window as Planes).planes = planes;
    },
    Math.min(MOST_PLANES, FRAMES / HOLD),
  );
  const encodeAlone = (decodes: boolean) =>
    lone.evaluate(
      async ({ width, height, bitrate, frames, hold, keyFramesEvery, decodes }) => {
        const { planes = [] } = window as Planes;
        const error = (reason: DOMException) => {
          throw reason;
        };
        const decoder = new VideoDecoder({ output: (frame) => frame.close(), error });
        const encoder = new VideoEncoder({
          output: (chunk, meta) => {
            if (!decodes) return;
            if (meta?.decoderConfig) decoder.configure({ ...meta.decoderConfig, hardwareAcceleration: 'prefer-software' });
            decoder.decode(chunk);
          },
          error,
        });
        encoder.configure({ codec: 'avc1.64001f', width, height, bitrate, latencyMode: 'quality', framerate: 24 });
        const started = performance.now();
        for (let frame = 0; frame < frames; frame++) {
          const picture = planes[Math.floor(frame / hold) % planes.length];
          if (!picture) throw new Error(`There is no picture for frame ${frame}.`);
          const timestamp = Math.round((frame * 1e6) / 24);
          const video = new VideoFrame(picture, { format: 'I420', codedWidth: width, codedHeight: height, timestamp });
          encoder.encode(video, { keyFrame: frame % keyFramesEvery === 0 });
          video.close();
          while (encoder.encodeQueueSize >= 4) await new Promise((resolve) => encoder.addEventListener('dequeue', resolve, { once: true }));
        }
        await encoder.flush();
        if (decodes) await decoder.flush();
        encoder.close();
        decoder.close();
        return (performance.now() - started) / 1000;
      },
      { ...SIZE, bitrate: BITRATE, frames: FRAMES, hold: HOLD, keyFramesEvery: KEY_FRAMES_EVERY, decodes },
    );
  const [ours, alone, withDecoder]: [number[], number[], number[]] = [[], [], []];
  for (let round = 0; round < ROUNDS; round++) {
    await lone.bringToFront();
    alone.push(await encodeAlone(false));
    withDecoder.push(await encodeAlone(true));
    await page.bringToFront();
    const handed = await handOver(page, server.url, id, 'MP4');
    if (handed.verdict !== 'agrees') throw new Error(`The receipt says ${handed.verdict}.`);
    ours.push(handed.writtenSeconds);
    // A stage that is open goes on measuring pictures, and would take a part of what runs next.
    await page.goto('about:blank');
  }
  const value = quantile(ours, 0.5);
  for (const [name, others] of [
    ['handover.film.encoder', alone],
    ['handover.film.coders', withDecoder],
  ] as const)
    print({ name, value, unit: 's', against: quantile(others, 0.5), ratio: value / quantile(others, 0.5) });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
