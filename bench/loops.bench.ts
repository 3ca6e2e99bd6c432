import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { makeProject, pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { handOver, openKeptBrowser } from './browser';
import { print, quantile } from './figure';

/*
 * Loops of 120 pictures of 640x360: a GIF against ffmpeg's palettegen and paletteuse on the same pictures and with as many
 * colours, in time and in bytes; an animated PNG and WebP against packing the distinct pictures alone; and ten times the holds. A loop is made by itself
 * soon after it is chosen, so that its size can be said, and leaves as it is: both are measured, one that is made from the press on
 * (what was begun by itself is stopped before), and one that was made already.
 */

const SIZE = { width: 640, height: 360 };
const PICTURES = 120;
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const RATE = { num: 24, den: 1 };

const folder = await newDataFolder();
const work = await mkdtemp(path.join(tmpdir(), 'lime-tick-bench-'));
const server = await startServer(folder);
const browser = await openKeptBrowser();
const untried = (page: Page) => page.getByRole('region', { name: 'The loop' }).getByRole('button', { name: 'Stop', exact: true }).click();
const tried = (page: Page) =>
  page
    .getByRole('region', { name: 'The loop' })
    .getByText(/bytes\)/)
    .waitFor();
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
  const [gif, gifTried, gifTheirs, apng, apngTried, apngTheirs, awebp, awebpTheirs, tenfold]: number[][] = Array.from(
    { length: 9 },
    () => [],
  );
  const made = async (id: string, kind: string, ready = untried) => {
    const handed = await handOver(page, server.url, id, kind, undefined, ready);
    if (handed.verdict !== 'agrees') throw new Error(`The receipt says ${handed.verdict}.`);
    return handed;
  };
  let [bytes, theirBytes] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    gifTheirs?.push(await timed(theirs));
    const ours = await made(once, 'GIF');
    gif?.push(ours.writtenSeconds);
    gifTried?.push((await made(once, 'GIF', tried)).writtenSeconds);
    [bytes, theirBytes] = [(await readFile(ours.file)).byteLength, (await stat(theirFile)).size];
    apngTheirs?.push(await timed(packing.apng));
    apng?.push((await made(once, 'APNG')).writtenSeconds);
    apngTried?.push((await made(once, 'APNG', tried)).writtenSeconds);
    awebpTheirs?.push(await timed(packing.awebp));
    awebp?.push((await made(once, 'Animated WebP')).writtenSeconds);
    tenfold?.push((await made(held, 'GIF')).writtenSeconds);
  }
  const show = (name: string, ours: readonly number[] = [], against: readonly number[] = []) => {
    const [value, other] = [quantile(ours, 0.5), quantile(against, 0.5)];
    print({ name, value, unit: 's', against: other, ratio: value / other });
  };
  show('loop.gif', gif, gifTheirs);
  show('loop.gif.tried', gifTried, gifTheirs);
  print({ name: 'loop.gif.bytes', value: bytes, unit: 'bytes', against: theirBytes, ratio: bytes / theirBytes });
  show('loop.apng', apng, apngTheirs);
  show('loop.apng.tried', apngTried, apngTheirs);
  show('loop.awebp', awebp, awebpTheirs);
  show('loop.growth', tenfold, gif);
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
  await rm(work, { recursive: true, force: true });
}
