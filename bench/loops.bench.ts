import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { makeProject, pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { handOver, openKeptBrowser } from './browser';
import { print, quantile } from './figure';

/*
 * Loops of 120 pictures of 640x360: a GIF against ffmpeg's palettegen and paletteuse on the same pictures and with as many
 * colours, in time and in bytes; an animated PNG and WebP against packing the distinct pictures alone; and ten times the holds.
 */

const SIZE = { width: 640, height: 360 };
const PICTURES = 120;
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const RATE = { num: 24, den: 1 };

const folder = await newDataFolder();
const work = await mkdtemp(path.join(tmpdir(), 'lime-tick-bench-'));
const server = await startServer(folder);
const browser = await openKeptBrowser();
const timed = async (act: () => Promise<unknown> | unknown): Promise<number> => {
  const started = performance.now();
  await act();
  return (performance.now() - started) / 1000;
};
try {
  const page = await browser.newPage();
  // The compiler names functions through a helper that a page does not have.
  await page.addInitScript('globalThis.__name = (named) => named');
  const once = await makeProject(server.url, { title: 'Once', rate: RATE, size: SIZE, frames: PICTURES }, { drawings: PICTURES, hold: 1 });
  const held = await makeProject(
    server.url,
    { title: 'Held', rate: RATE, size: SIZE, frames: PICTURES * 10 },
    { drawings: PICTURES, hold: 10 },
  );
  const pngs = await Promise.all(
    Array.from({ length: PICTURES }, (_, index) =>
      sharp(Buffer.from(pictureSvg(index, 0, SIZE)))
        .flatten({ background: '#ffffff' })
        .png()
        .toBuffer(),
    ),
  );
  for (const [index, png] of pngs.entries()) await writeFile(path.join(work, `${String(index).padStart(4, '0')}.png`), png);
  const theirFile = path.join(work, 'theirs.gif');
  const theirs = () =>
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-y', '-framerate', '24', '-i', path.join(work, '%04d.png')],
      ...['-filter_complex', 'split[a][b];[a]palettegen=max_colors=256[p];[b][p]paletteuse=dither=none', theirFile],
    ]);
  const packing = {
    apng: () => Promise.all(pngs.map((png) => sharp(png).png().toBuffer())),
    awebp: () => Promise.all(pngs.map((png) => sharp(png).webp({ lossless: true }).toBuffer())),
  };
  const [gif, gifTheirs, apng, apngTheirs, awebp, awebpTheirs, tenfold]: number[][] = [[], [], [], [], [], [], []];
  let [bytes, theirBytes] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    gifTheirs?.push(await timed(theirs));
    const ours = await handOver(page, server.url, once, 'GIF');
    if (ours.verdict !== 'agrees') throw new Error(`The receipt says ${ours.verdict}.`);
    gif?.push(ours.writtenSeconds);
    [bytes, theirBytes] = [(await readFile(ours.file)).byteLength, (await stat(theirFile)).size];
    apngTheirs?.push(await timed(packing.apng));
    apng?.push((await handOver(page, server.url, once, 'APNG')).writtenSeconds);
    awebpTheirs?.push(await timed(packing.awebp));
    awebp?.push((await handOver(page, server.url, once, 'Animated WebP')).writtenSeconds);
    tenfold?.push((await handOver(page, server.url, held, 'GIF')).writtenSeconds);
  }
  const show = (name: string, ours: readonly number[] = [], against: readonly number[] = []) => {
    const [value, other] = [quantile(ours, 0.5), quantile(against, 0.5)];
    print({ name, value, unit: 's', against: other, ratio: value / other });
  };
  show('loop.gif', gif, gifTheirs);
  print({ name: 'loop.gif.bytes', value: bytes, unit: 'bytes', against: theirBytes, ratio: bytes / theirBytes });
  show('loop.apng', apng, apngTheirs);
  show('loop.awebp', awebp, awebpTheirs);
  show('loop.growth', tenfold, gif);
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
  await rm(work, { recursive: true, force: true });
}
