import { spawn } from 'node:child_process';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { makeProject, pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { handOver, openKeptBrowser, watchPageMemory } from './browser';
import { print, quantile } from './figure';

/*
 * A film on twos against ffmpeg fed every frame, once; and ten times the holds, less what the encoder takes for frames that stand
 * still, medians of three.
 */

const SIZE = { width: 1280, height: 720 };
const FRAMES = 1530;
const HOLD = 2;
const ROUNDS = Number(process.env.ROUNDS ?? 3);

/** Every composited picture of the film, as raw RGBA on white. */
async function compositedPictures(): Promise<Buffer[]> {
  const pictures: Buffer[] = [];
  for (let index = 0; index < FRAMES / HOLD; index++) {
    pictures.push(
      await sharp(Buffer.from(pictureSvg(index, 0, SIZE)))
        .flatten({ background: '#ffffff' })
        .ensureAlpha()
        .raw()
        .toBuffer(),
    );
  }
  return pictures;
}

/** Seconds ffmpeg takes from the command line when it is fed every frame. */
async function ffmpegSeconds(pictures: readonly Buffer[], file: string): Promise<number> {
  const started = performance.now();
  const child = spawn(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${SIZE.width}x${SIZE.height}`,
      '-r',
      '30',
      '-i',
      '-',
      '-c:v',
      'libx264',
      '-crf',
      '20',
      '-pix_fmt',
      'yuv420p',
      '-vf',
      'scale=out_color_matrix=bt709:out_range=tv',
      file,
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  const ended = new Promise<void>((resolve, reject) =>
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`ffmpeg ended with ${code}.`)))),
  );
  for (let frame = 0; frame < FRAMES; frame++) {
    const picture = pictures[Math.floor(frame / HOLD)];
    if (picture && !child.stdin.write(picture)) await new Promise((resolve) => child.stdin.once('drain', resolve));
  }
  child.stdin.end();
  await ended;
  return (performance.now() - started) / 1000;
}

/** Peak signal to noise of a film against the pictures meant, in dB, over a part of its frames. */
async function quality(file: string, pictures: readonly Buffer[]): Promise<number> {
  const frames = 120;
  const child = spawn(
    'ffmpeg',
    [
      '-v',
      'info',
      '-i',
      file,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${SIZE.width}x${SIZE.height}`,
      '-r',
      '30',
      '-i',
      '-',
      '-frames:v',
      String(frames),
      '-lavfi',
      '[1:v]scale=out_color_matrix=bt709:out_range=tv,format=yuv420p[meant];[0:v][meant]psnr',
      '-f',
      'null',
      '-',
    ],
    { stdio: ['pipe', 'ignore', 'pipe'] },
  );
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => {
    said += chunk.toString();
  });
  child.stdin.on('error', () => undefined);
  const ended = new Promise((resolve) => child.on('exit', resolve));
  for (let frame = 0; frame < frames; frame++) {
    const picture = pictures[Math.floor(frame / HOLD)];
    if (picture && !child.stdin.write(picture)) await Promise.race([new Promise((resolve) => child.stdin.once('drain', resolve)), ended]);
  }
  child.stdin.end();
  await ended;
  return Number(/average:([\d.]+)/.exec(said)?.[1] ?? Number.NaN);
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openKeptBrowser();
const film = path.join(tmpdir(), 'lime-tick-bench-ffmpeg.mp4');
try {
  const long = await makeProject(
    server.url,
    { title: 'Long', rate: { num: 30, den: 1 }, size: SIZE, frames: FRAMES },
    { drawings: FRAMES / HOLD, hold: HOLD },
  );
  const pictures = await compositedPictures();
  const theirs = await ffmpegSeconds(pictures, film);
  const page = await browser.newPage();
  // The compiler names functions through a helper that a page does not have.
  await page.addInitScript('globalThis.__name = (named) => named');
  const memory = watchPageMemory();
  const ours = await handOver(page, server.url, long, 'MP4');
  memory.print('handover.memory');
  if (ours.verdict !== 'agrees') throw new Error(`The receipt says ${ours.verdict}.`);
  print({ name: 'handover.film.ratio', value: ours.writtenSeconds, unit: 's', against: theirs, ratio: ours.writtenSeconds / theirs });
  print({
    name: 'handover.film.counted.ratio',
    value: ours.countedSeconds,
    unit: 's',
    against: theirs,
    ratio: ours.countedSeconds / theirs,
  });
  const [ourQuality, theirQuality] = [await quality(ours.file, pictures), await quality(film, pictures)];
  print({ name: 'handover.film.psnr', value: ourQuality, unit: 'dB', against: theirQuality, ratio: ourQuality / theirQuality });

  const growing = { title: 'Growing', rate: { num: 24, den: 1 }, size: SIZE };
  const short = await makeProject(server.url, { ...growing, frames: 120 }, { drawings: 60, hold: 2 });
  const held = await makeProject(server.url, { ...growing, frames: 1200 }, { drawings: 60, hold: 20 });
  const [once, tenfold]: [number[], number[]] = [[], []];
  let [fewPictures, manyPictures] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    const [one, ten] = [await handOver(page, server.url, short, 'MP4'), await handOver(page, server.url, held, 'MP4')];
    [fewPictures, manyPictures] = [one.pictures, ten.pictures];
    once.push(one.writtenSeconds);
    tenfold.push(ten.writtenSeconds - (await page.evaluate(encodeHeldFrames, { ...SIZE, frames: 1080 })));
  }
  print({
    name: 'handover.growth.pictures',
    value: manyPictures,
    unit: 'pictures',
    against: fewPictures,
    ratio: manyPictures / fewPictures,
  });
  const [value, against] = [quantile(tenfold, 0.5), quantile(once, 0.5)];
  print({ name: 'handover.growth', value, unit: 's', against, ratio: value / against });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(film, { force: true });
  await rm(folder, { recursive: true, force: true });
}

/** In the page: seconds the encoder itself needs for frames that stand still. */
async function encodeHeldFrames({ width, height, frames }: { width: number; height: number; frames: number }): Promise<number> {
  const data = new Uint8Array((width * height * 3) / 2).fill(128);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('There is no canvas.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  context.lineWidth = 9;
  for (let shape = 0; shape < 12; shape++) {
    context.beginPath();
    context.arc((width * (shape + 1)) / 13, (height * ((shape * 5) % 12)) / 12, 86, 0, 7);
    context.stroke();
  }
  const pixels = context.getImageData(0, 0, width, height).data;
  for (let pixel = 0; pixel < width * height; pixel++) data[pixel] = 16 + ((pixels[pixel * 4] ?? 0) * 219) / 255;
  const encoder = new VideoEncoder({
    output: () => undefined,
    error: (error) => {
      throw error;
    },
  });
  encoder.configure({ codec: 'avc1.64001f', width, height, bitrate: 6_000_000, framerate: 24 });
  const started = performance.now();
  for (let frame = 0; frame < frames; frame++) {
    const picture = new VideoFrame(data, {
      format: 'I420',
      codedWidth: width,
      codedHeight: height,
      timestamp: Math.round((frame * 1e6) / 24),
    });
    encoder.encode(picture, { keyFrame: frame % 48 === 0 });
    picture.close();
    while (encoder.encodeQueueSize > 4) await new Promise((resolve) => encoder.addEventListener('dequeue', resolve, { once: true }));
  }
  await encoder.flush();
  encoder.close();
  return (performance.now() - started) / 1000;
}
