import { rm } from 'node:fs/promises';
import type { Browser } from '@playwright/test';
import { pictureFile, pictureSvg, sendSteps } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { type Drawing, type Exposure, newLevel, type Shot, wholeShot } from '../src/core/document/model';
import { openBrowser, paintTimes, watchPageMemory } from './browser';
import { print, quantile } from './figure';

/*
 * A feature film of 1,200 shots of 108 frames, five levels each, 60,000 drawings, all drawn: how long until it can be used, and one step in it,
 * against the demo in the same run; how long until the shelf shows it; and the memory of its page. Medians of three runs.
 */
const SHOTS = 1200;
const FRAMES = 108;
const LEVELS = 5;
const DRAWINGS = 10;
const SIZE = { width: 1280, height: 720 };
/** Drawings share so many pictures; what lies over each other differs from shot to shot. */
const PICTURES = 48;
const AT_ONCE = 20;
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const KEYS = ['ArrowDown', 'ArrowDown', 'ArrowRight', 'Shift+ArrowDown', 'ArrowLeft'];

function shotOf(number: number, pictures: readonly string[]): Shot {
  const levels = Array.from({ length: LEVELS }, (_, place) => {
    const name = `s${number}l${place}`;
    const drawings = Array.from(
      { length: DRAWINGS },
      (_unused, index): Drawing => ({
        id: `${name}d${index}`,
        number: String(index + 1),
        role: index % 5 === 0 ? 'key' : 'inbetween',
        picture: pictures[(number * (place + 1) * 7 + index) % PICTURES] as string,
      }),
    );
    const exposures = Array.from(
      { length: FRAMES / 2 },
      (_unused, index): Exposure => ({ drawing: `${name}d${index % DRAWINGS}`, frames: 2 }),
    );
    return { ...newLevel(name, `Level ${place + 1}`), drawings, exposures };
  });
  return {
    id: `s${number}`,
    code: String(number * 10).padStart(5, '0'),
    name: '',
    note: '',
    frames: FRAMES,
    levels,
    notes: [],
    sounds: [],
  };
}

async function makeFeature(url: string): Promise<string> {
  const film = { title: 'Feature', rate: { num: 24, den: 1 }, size: SIZE, frames: FRAMES, firstFrameNumber: 1 };
  const made = await fetch(`${url}/api/projects`, {
    method: 'POST',
    body: JSON.stringify(film),
    headers: { 'Content-Type': 'application/json' },
  });
  const { id } = (await made.json()) as { id: string };
  const files = await Promise.all(Array.from({ length: PICTURES }, (_, index) => pictureFile(pictureSvg(index, 0, SIZE), SIZE)));
  const pictures = files.map(({ digest }) => digest);
  for (let from = 2; from <= SHOTS; from += AT_ONCE) {
    const numbers = Array.from({ length: Math.min(AT_ONCE, SHOTS - from + 1) }, (_, index) => from + index);
    await sendSteps(
      url,
      id,
      numbers.map((number) => ({
        type: 'addShot',
        index: number - 1,
        shot: shotOf(number, pictures),
        items: [{ item: wholeShot(`s${number}`), index: number - 1 }],
      })),
      from === 2 ? files : [],
    );
  }
  return id;
}

/** Seconds until a project's sheet is there, and milliseconds a step then takes (p50). */
async function visit(browser: Browser, url: string, id: string): Promise<{ openMilliseconds: number; stepMilliseconds: number }> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  const started = performance.now();
  await page.goto(`${url}/projects/${id}/plan`);
  await page.getByRole('gridcell').first().waitFor();
  const openMilliseconds = performance.now() - started;
  await page.waitForTimeout(5000);
  const stepMilliseconds = quantile(await paintTimes(page, KEYS, 60), 0.5);
  await page.close();
  return { openMilliseconds, stepMilliseconds };
}

type Shown = Window & { shownMilliseconds?: number };

/** Milliseconds from asking for the shelf, with nothing of it kept by the browser, until a project's card has been painted. */
async function shelfPaintedMilliseconds(browser: Browser, url: string, title: string): Promise<number> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.addInitScript((wanted) => {
    const look = () => {
      if (![...document.querySelectorAll('h2')].some(({ textContent }) => textContent === wanted)) return requestAnimationFrame(look);
      // The task after the frame's, when its painting has been handed on.
      return requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => {
          (window as Shown).shownMilliseconds = performance.now();
        };
        channel.port2.postMessage(null);
      });
    };
    look();
  }, title);
  await page.goto(url);
  await page.waitForFunction(() => (window as Shown).shownMilliseconds !== undefined);
  const milliseconds = await page.evaluate(() => (window as Shown).shownMilliseconds ?? Number.NaN);
  await page.close();
  return milliseconds;
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  await fetch(`${server.url}/api/demo`, { method: 'POST' });
  const feature = await makeFeature(server.url);
  await visit(browser, server.url, 'washday');
  const rounds: { large: Awaited<ReturnType<typeof visit>>; demo: Awaited<ReturnType<typeof visit>> }[] = [];
  for (let round = 0; round < ROUNDS; round++)
    rounds.push({ demo: await visit(browser, server.url, 'washday'), large: await visit(browser, server.url, feature) });
  for (const [name, of] of [
    ['open.feature', 'openMilliseconds'],
    ['step.feature', 'stepMilliseconds'],
  ] as const) {
    const value = quantile(
      rounds.map(({ large }) => large[of]),
      0.5,
    );
    const against = quantile(
      rounds.map(({ demo }) => demo[of]),
      0.5,
    );
    print({ name, value, unit: 'ms', against, ratio: value / against });
  }
  const shelf: number[] = [];
  for (let round = 0; round < ROUNDS; round++) shelf.push(await shelfPaintedMilliseconds(browser, server.url, 'Feature'));
  print({ name: 'shelf.feature', value: quantile(shelf, 0.5), unit: 'ms', against: 1000 });
  // The memory of its page, gone through stage by stage and stepped through in each: the most it takes, which differs by when the browser collects.
  const memories: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const memory = watchPageMemory();
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript('globalThis.__name = (named) => named');
    await page.goto(`${server.url}/projects/${feature}/plan`);
    for (const stage of ['Plan', 'Draw', 'Check', 'Assemble', 'Hand over']) {
      await page.getByRole('link', { name: new RegExp(`^${stage}`) }).click();
      await page.waitForTimeout(5000);
      await paintTimes(page, KEYS, 30);
    }
    memories.push(memory.print('feature.memory.once', 600));
    await page.close();
  }
  print({ name: 'feature.memory', value: quantile(memories, 0.5), unit: 'MiB', against: 600 });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
