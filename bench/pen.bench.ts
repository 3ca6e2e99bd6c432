import { rm } from 'node:fs/promises';
import type { Browser, Page } from '@playwright/test';
import { makeProject } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser, paintTimes } from './browser';
import { print, quantile } from './figure';

const STROKES = 12;
const MOVES = 40;
const ROUNDS = 60;
const RUNS = Number(process.env.ROUNDS ?? 3);

type Timed = Window & { inked?: number[]; unseen?: number[] };

/** Milliseconds from each movement of the pen to the task after the animation frame it led to. */
async function watchPen(page: Page): Promise<void> {
  await page.evaluate(() => {
    const state = window as Timed;
    state.inked = [];
    window.addEventListener(
      'pointermove',
      ({ timeStamp }) => {
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => state.inked?.push(performance.now() - timeStamp);
          channel.port2.postMessage(null);
        });
      },
      true,
    );
  });
}

const FRAMES = 480;
const HOLD = 4;
/** Further from each other than keys go at once. */
const FAR_JUMPS = 8;
const SIZES = [
  ['pen', { width: 1920, height: 1080 }],
  ['pen.2160', { width: 3840, height: 2160 }],
] as const;

const waitUntilLaid = (page: Page) =>
  page.waitForFunction(() => document.querySelector('[data-testid="paper"]')?.getAttribute('data-laid') === 'ready');

/** Milliseconds from each key or press to where another drawing lies on the paper, to be drawn on, and is painted. */
async function watchLaying(page: Page): Promise<void> {
  await page.evaluate(() => {
    const state = window as Timed;
    const read = (name: string) => document.querySelector('[data-testid="paper"]')?.getAttribute(name);
    let [from, before]: [number, string | null | undefined] = [0, null];
    const begin = ({ timeStamp }: Event) => {
      [from, before] = [timeStamp, read('aria-label')];
    };
    window.addEventListener('keydown', begin, true);
    window.addEventListener('pointerdown', begin, true);
    new MutationObserver(() => {
      if (from === 0 || read('aria-label') === before || read('data-laid') !== 'ready') return;
      const began = from;
      from = 0;
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => state.unseen?.push(performance.now() - began);
        channel.port2.postMessage(null);
      });
    }).observe(document.body, { subtree: true, attributes: true, attributeFilter: ['data-laid', 'aria-label'] });
  });
}

const startLaying = (page: Page) =>
  page.evaluate(() => {
    (window as Timed).unseen = [];
  });

type Times = {
  readonly empty: readonly number[];
  readonly emptyKeys: readonly number[];
  readonly inked: readonly number[];
  readonly seen: readonly number[];
  readonly unseen: readonly number[];
  readonly far: readonly number[];
};

/** Moves the pen in waves over a box of the page. */
async function drawWaves(page: Page, box: { x: number; y: number; width: number; height: number }): Promise<void> {
  for (let number = 0; number < STROKES; number++) {
    const y = box.y + box.height * (0.1 + (0.8 * number) / STROKES);
    await page.mouse.move(box.x + 20, y);
    await page.mouse.down();
    for (let step = 1; step <= MOVES; step++)
      await page.mouse.move(box.x + 20 + (box.width - 40) * (step / MOVES), y + Math.sin(step / 3) * 18);
    await page.mouse.up();
  }
}

const pressKeys = (page: Page): Promise<number[]> => paintTimes(page, ['Shift+ArrowDown', 'Shift+ArrowUp'], ROUNDS);

const timesOf = (page: Page, list: 'inked' | 'unseen') => page.evaluate((name) => (window as Timed)[name] ?? [], list);

/** What an empty page takes to answer the same movements and keys: the waiting for the next frame alone. */
async function emptyPage(browser: Browser): Promise<Pick<Times, 'empty' | 'emptyKeys'>> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.setContent('<p>An empty page.</p>');
  await watchPen(page);
  await drawWaves(page, { x: 330, y: 140, width: 620, height: 350 });
  const times = { empty: await timesOf(page, 'inked'), emptyKeys: await pressKeys(page) };
  await page.close();
  return times;
}

async function measure(url: string, browser: Browser, size: { width: number; height: number }): Promise<Times> {
  const empty = await emptyPage(browser);
  const film = { title: 'Pen', rate: { num: 24, den: 1 }, size, frames: FRAMES };
  const projectId = await makeProject(url, film, { drawings: 120, hold: HOLD, levels: 4 });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.goto(`${url}/projects/${projectId}/draw`);
  const paper = page.getByTestId('paper');
  await waitUntilLaid(page);
  for (const name of ['One more before', 'One more after', 'One more after']) await page.getByRole('button', { name }).click();
  for (let press = 0; press < 20; press++) await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(1500);
  const box = await paper.boundingBox();
  if (!box) throw new Error('There is no paper.');
  await watchPen(page);
  await drawWaves(page, box);
  const inked = await timesOf(page, 'inked');
  await page.waitForFunction(() => document.querySelector('[data-testid="kept"]')?.getAttribute('data-state') === 'kept', null, {
    timeout: 60_000,
  });

  const seen = (await pressKeys(page)).slice(4);

  // A second further there is a drawing that was never looked at.
  await watchLaying(page);
  await page.keyboard.press('Home');
  await page.waitForTimeout(1500);
  await startLaying(page);
  for (let jump = 0; jump < FRAMES / 24 - 2; jump++) {
    await page.keyboard.press('PageDown');
    await page.waitForTimeout(1200);
  }
  const unseen = await timesOf(page, 'unseen');

  // The same on a page that has seen nothing yet, to places nobody could have made ready.
  await page.reload();
  await waitUntilLaid(page);
  await watchLaying(page);
  const strip = await page.getByRole('slider', { name: 'Frame', exact: true }).boundingBox();
  if (!strip) throw new Error('There is no strip.');
  await startLaying(page);
  for (let jump = 0; jump < FAR_JUMPS; jump++) {
    await page.mouse.click(strip.x + (strip.width * (jump + 0.3)) / FAR_JUMPS, strip.y + strip.height / 2);
    await page.waitForTimeout(1200);
  }
  const far = await timesOf(page, 'unseen');
  await page.close();
  return { ...empty, inked, seen, unseen, far };
}

/** Medians of three runs, of what each run's times come to. */
function tell(name: string, runs: readonly Times[]): void {
  const median = (of: (run: Times) => number) => quantile(runs.map(of), 0.5);
  for (const [words, part] of [
    ['p50', 0.5],
    ['p95', 0.95],
  ] as const) {
    const against = median(({ empty }) => quantile(empty, part));
    const ink = median(({ inked }) => quantile(inked, part));
    print({ name: name === 'pen' ? `pen.ink.${words}` : `pen.ink.2160.${words}`, value: ink, unit: 'ms', against, ratio: ink / against });
    const againstKeys = median(({ emptyKeys }) => quantile(emptyKeys, part));
    const seen = median((run) => quantile(run.seen, part));
    print({ name: `${name}.step.seen.${words}`, value: seen, unit: 'ms', against: againstKeys, ratio: seen / againstKeys });
    print({ name: `${name}.step.unseen.${words}`, value: median((run) => quantile(run.unseen, part)), unit: 'ms' });
    print({ name: `${name}.jump.far.${words}`, value: median((run) => quantile(run.far, part)), unit: 'ms' });
  }
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  for (const [name, size] of SIZES) {
    const runs: Times[] = [];
    for (let run = 0; run < RUNS; run++) runs.push(await measure(server.url, browser, size));
    tell(name, runs);
  }
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
