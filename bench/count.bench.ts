import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { newDataFolder, startServer } from '../e2e/server';
import { countablesAt } from '../src/command/openPath';
import { layBeside } from '../src/core/outside/agreement';
import { countOutside } from '../src/core/outside/countOutside';
import { LOOK_BYTES } from '../src/core/outside/look';
import { looksOf } from '../src/core/outside/looks';
import type { SeenFrames } from '../src/core/outside/seenFrames';
import { openBrowser } from './browser';
import { print, quantile } from './figure';

/*
 * Counting what others made: a film of 1,530 frames of 1280 × 720 in Node and in the browser against ffmpeg decoding it to nothing
 * with framemd5; a folder of as many PNGs against decoding them with sharp; two films of 10,000 frames laid beside each other; and
 * what ten times the length costs. Medians of three runs, one beside the other.
 */
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const FRAMES = 1530;
const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-bench-'));
const at = (name: string) => path.join(folder, name);
const ffmpeg = (...args: readonly string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: folder, maxBuffer: 1 << 28 });

async function seconds(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
}

const median = (values: readonly number[]): number => quantile([...values], 0.5);

async function counted(name: string): Promise<number> {
  const [thing] = await countablesAt([at(name)]);
  if (!thing) throw new Error(`There is no ${name}.`);
  return (await countOutside(await thing.open())).count.frames;
}

/** Two kinds of work in turn, and their medians. */
async function against(name: string, ours: () => unknown, theirs: () => unknown, unit = 's'): Promise<void> {
  const [own, other]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round++) {
    other.push(await seconds(theirs));
    own.push(await seconds(ours));
  }
  print({ name, value: median(own), against: median(other), ratio: median(own) / median(other), unit });
}

/** A film of `frames` looks, each another, as if they had been seen. */
function madeUp(frames: number, of: (frame: number) => number): SeenFrames {
  const looks = new Map<number, Uint8Array>();
  const lookOf = (seed: number) => {
    let state = seed * 2_654_435_761 + 1;
    const look = new Uint8Array(LOOK_BYTES).fill(128);
    // A page with a figure somewhere: most of it is alike from frame to frame.
    for (let cell = 0; cell < 200; cell++) {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      look[state % LOOK_BYTES] = (state >>> 8) & 255;
    }
    return look;
  };
  const pictures: Uint8Array[] = [];
  const places = new Map<number, number>();
  const pictureOf = Uint32Array.from({ length: frames }, (_, frame) => {
    const seed = of(frame);
    const look = looks.get(seed) ?? lookOf(seed);
    looks.set(seed, look);
    const place = places.get(seed) ?? pictures.push(look) - 1;
    places.set(seed, place);
    return place;
  });
  return {
    frames,
    pictureOf,
    repeats: new Uint8Array(frames),
    pictures: looksOf(pictures),
    flats: new Map(),
    colours: null,
  };
}

try {
  const film = ['-pix_fmt', 'yuv420p', '-c:v', 'libx264', '-preset', 'veryfast', '-g', '48'];
  ffmpeg('-f', 'lavfi', '-i', `testsrc2=s=1280x720:r=30:d=${FRAMES / 30}`, ...film, 'film.mp4');
  const decode = (name: string) => () => ffmpeg('-i', name, '-map', '0:v:0', '-f', 'framemd5', '-');
  await against('count.film', () => counted('film.mp4'), decode('film.mp4'));

  ffmpeg('-stream_loop', '9', '-i', 'film.mp4', '-c', 'copy', 'long.mp4');
  // Once ten times as long beside ten times in a row, half of them before and half after: machines are quicker one minute than the next.
  const inARow = async () => {
    for (let time = 0; time < 5; time++) await counted('film.mp4');
  };
  const before = await seconds(inARow);
  const long = await seconds(() => counted('long.mp4'));
  const short = (before + (await seconds(inARow))) / 10;
  print({ name: 'count.tenfold', value: long, against: short, ratio: long / short, unit: 's' });

  mkdirSync(at('row'));
  ffmpeg('-i', 'film.mp4', '-frames:v', '96', '-compression_level', '1', 'one_%04d.png');
  // Each written as many times as it takes, with a byte of its own behind its end, so that none is the one before.
  const pages = readdirSync(folder).filter((name) => /^one_.*png$/.test(name));
  for (let frame = 1; frame <= FRAMES; frame++) {
    const page = readFileSync(at(pages[frame % pages.length] as string));
    writeFileSync(at(`row/p_${String(frame).padStart(4, '0')}.png`), Buffer.concat([page, Buffer.from([frame & 255, frame >> 8])]));
  }
  const files = readdirSync(at('row')).map((name) => at(`row/${name}`));
  await against(
    'count.folder',
    () => counted('row'),
    async () => {
      for (let from = 0; from < files.length; from += 4)
        await Promise.all(files.slice(from, from + 4).map((file) => sharp(file).ensureAlpha().raw().toBuffer()));
    },
  );
  print({ name: 'count.memory', value: process.resourceUsage().maxRSS / 1024, unit: 'MiB' });

  const [plan, file] = [madeUp(10_000, (frame) => frame >> 1), madeUp(12_500, (frame) => Math.floor((frame * 4) / 5) >> 1)];
  const laid: number[] = [];
  for (let round = 0; round < ROUNDS; round++) laid.push(await seconds(() => layBeside(plan, file, { num: 24, den: 1 }, 1280)));
  print({ name: 'count.align', value: median(laid), unit: 's' });

  const data = await newDataFolder();
  const server = await startServer(data);
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.goto(`${server.url}/counting-desk`);
    await page.getByTestId('desk-files').waitFor({ state: 'attached' });
    let things = 0;
    await against(
      'count.browser.film',
      async () => {
        await page.getByTestId('desk-files').setInputFiles(at('film.mp4'));
        things++;
        await page
          .getByText('held against nothing')
          .nth(things - 1)
          .waitFor({ timeout: 120_000 });
      },
      decode('film.mp4'),
    );
  } finally {
    await browser.close();
    await server.kill('SIGTERM');
    rmSync(data, { recursive: true, force: true });
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
