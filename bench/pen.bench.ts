import { rm } from 'node:fs/promises';
import type { Browser, Page } from '@playwright/test';
import { makeProject } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser } from './browser';
import { print, quantile } from './figure';

const STROKES = 12;
const MOVES = 40;
const ROUNDS = 60;

type Timed = Window & { inked?: number[]; stepped?: number[]; unseen?: number[] };

/** Milliseconds from each event of a kind to the task after the animation frame it led to. */
async function watch(page: Page, event: 'pointermove' | 'keydown', list: 'inked' | 'stepped'): Promise<void> {
  await page.evaluate(
    ([kind, name]) => {
      const state = window as Timed;
      state[name] = [];
      window.addEventListener(
        kind,
        ({ timeStamp }) => {
          requestAnimationFrame(() => {
            const channel = new MessageChannel();
            channel.port1.onmessage = () => state[name]?.push(performance.now() - timeStamp);
            channel.port2.postMessage(null);
          });
        },
        true,
      );
    },
    [event, list] as const,
  );
}

const FRAMES = 480;
const HOLD = 4;
const SIZES = [
  ['pen', { width: 1920, height: 1080 }],
  ['pen.2160', { width: 3840, height: 2160 }],
] as const;

async function measure(url: string, browser: Browser, name: string, size: { width: number; height: number }): Promise<void> {
  const film = { title: 'Pen', rate: { num: 24, den: 1 }, size, frames: FRAMES };
  const projectId = await makeProject(url, film, { drawings: 120, hold: HOLD, levels: 4 });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.goto(`${url}/projects/${projectId}/draw`);
  const paper = page.getByTestId('paper');
  await page.waitForFunction(() => document.querySelector('[data-testid="paper"]')?.getAttribute('data-laid') === 'ready');
  for (const name of ['One more before', 'One more after', 'One more after']) await page.getByRole('button', { name }).click();
  for (let press = 0; press < 20; press++) await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(1500);
  const box = await paper.boundingBox();
  if (!box) throw new Error('There is no paper.');
  await watch(page, 'pointermove', 'inked');
  for (let number = 0; number < STROKES; number++) {
    const y = box.y + box.height * (0.1 + (0.8 * number) / STROKES);
    await page.mouse.move(box.x + 20, y);
    await page.mouse.down();
    await page.evaluate(() => {
      (window as Timed).inked ??= [];
    });
    for (let step = 1; step <= MOVES; step++)
      await page.mouse.move(box.x + 20 + (box.width - 40) * (step / MOVES), y + Math.sin(step / 3) * 18);
    await page.mouse.up();
  }
  const inked = await page.evaluate(() => (window as Timed).inked ?? []);
  print({ name: `${name}.ink.p50`, value: quantile(inked, 0.5), unit: 'ms' });
  print({ name: `${name}.ink.p95`, value: quantile(inked, 0.95), unit: 'ms' });
  await page.waitForFunction(() => document.querySelector('[data-testid="kept"]')?.getAttribute('data-state') === 'kept', null, {
    timeout: 60_000,
  });

  await watch(page, 'keydown', 'stepped');
  for (let round = 0; round < ROUNDS; round++) {
    await page.keyboard.press(round % 2 === 0 ? 'Shift+ArrowDown' : 'Shift+ArrowUp');
    await page.waitForFunction((count) => ((window as Timed).stepped?.length ?? 0) >= count, round + 1, { polling: 4 });
  }
  const stepped = await page.evaluate(() => (window as Timed).stepped ?? []);
  print({ name: `${name}.step.seen.p50`, value: quantile(stepped.slice(4), 0.5), unit: 'ms' });
  print({ name: `${name}.step.seen.p95`, value: quantile(stepped.slice(4), 0.95), unit: 'ms' });

  // A second further there is a drawing that was never looked at: until it lies on the paper, to be drawn on.
  await page.evaluate(() => {
    const state = window as Timed;
    state.unseen = [];
    let pressed = 0;
    window.addEventListener('keydown', (event) => {
      pressed = event.timeStamp;
    });
    new MutationObserver(() => {
      const laid = document.querySelector('[data-testid="paper"]')?.getAttribute('data-laid');
      if (laid === 'ready' && pressed > 0) {
        state.unseen?.push(performance.now() - pressed);
        pressed = 0;
      }
    }).observe(document.body, { subtree: true, attributes: true, attributeFilter: ['data-laid'] });
  });
  await page.keyboard.press('Home');
  await page.waitForTimeout(500);
  const jumps = Math.floor(FRAMES / 24) - 2;
  for (let jump = 0; jump < jumps; jump++) {
    await page.keyboard.press('PageDown');
    await page.waitForTimeout(1200);
  }
  const unseen = (await page.evaluate(() => (window as Timed).unseen ?? [])).slice(1);
  print({ name: `${name}.step.unseen.p50`, value: quantile(unseen, 0.5), unit: 'ms' });
  print({ name: `${name}.step.unseen.p95`, value: quantile(unseen, 0.95), unit: 'ms' });
  await page.close();
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  for (const [name, size] of SIZES) await measure(server.url, browser, name, size);
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
