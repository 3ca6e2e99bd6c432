import { performance } from 'node:perf_hooks';
import type { Page } from '@playwright/test';
import { pictureFile, pictureSvg, projectOnServer, sendSteps } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { type Level, newLevel, type Shot } from '../src/core/document/model';
import type { Step } from '../src/core/edit/step';
import { openBrowser, paintTimes } from './browser';
import { print, quantile } from './figure';

/*
 * A reel of 1,200 shots of 108 frames, 129,600 frames or 90 minutes at 24, beside the demo's in the same run: how long it
 * takes to open, and how long a key takes until what it does is painted, against an empty page's own frames.
 */
const SHOTS = 1200;
const FRAMES = 108;
const PICTURES = 12;
const SIZE = { width: 1280, height: 720 };
const SENT_AT_ONCE = 200;

const levelOf = (shot: number, pictures: readonly string[]): Level => ({
  ...newLevel(`L${shot}`, 'Line'),
  drawings: pictures.map((picture, index) => ({ id: `L${shot}-${index}`, number: String(index + 1), role: 'inbetween', picture })),
  exposures: Array.from({ length: FRAMES / 2 }, (_, run) => ({ drawing: `L${shot}-${run % PICTURES}`, frames: 2 })),
});

async function makeLongReel(url: string): Promise<string> {
  const files = await Promise.all(Array.from({ length: PICTURES }, (_, index) => pictureFile(pictureSvg(index, 0, SIZE), SIZE)));
  const body = JSON.stringify({ title: 'Long', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: FRAMES });
  const made = await fetch(`${url}/api/projects`, { method: 'POST', body, headers: { 'Content-Type': 'application/json' } });
  const { id } = (await made.json()) as { id: string };
  const [first] = (await projectOnServer(url, id)).shots;
  if (!first) throw new Error('A new project has a shot.');
  const shots = Array.from({ length: SHOTS - 1 }, (_, index): Shot => {
    const number = index + 2;
    const level = levelOf(
      number,
      files.map(({ digest }) => digest),
    );
    return { ...first, id: `s${number}`, code: String(number * 10).padStart(5, '0'), levels: [level] };
  });
  const steps = shots.map((shot, index): Step => {
    const item = { id: shot.id, kind: 'shot' as const, finished: true, shotId: shot.id, trim: null };
    return { type: 'addShot', shot, index: index + 1, items: [{ item, index: index + 1 }] };
  });
  for (let start = 0; start < steps.length; start += SENT_AT_ONCE)
    await sendSteps(url, id, steps.slice(start, start + SENT_AT_ONCE), start === 0 ? files : []);
  return id;
}

/** Milliseconds until Assemble shows a reel and its first picture, the middle of three. */
async function opening(page: Page, address: string): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < 3; round++) {
    await page.goto('about:blank');
    const started = performance.now();
    await page.goto(address);
    await page.getByRole('option').first().waitFor();
    times.push(performance.now() - started);
  }
  return quantile(times, 0.5);
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  await fetch(`${server.url}/api/demo`, { method: 'POST' });
  const projectId = await makeLongReel(server.url);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.setContent('<p>An empty page, to know what the waiting for the next frame alone takes.</p>');
  const waits = await paintTimes(page, ['ArrowDown']);
  const empty = quantile(waits, 0.95);
  print({ name: 'assemble.emptyPage.p95', value: empty, unit: 'ms' });
  const demo = await opening(page, `${server.url}/projects/washday/assemble`);
  const long = await opening(page, `${server.url}/projects/${projectId}/assemble`);
  print({ name: 'assemble.open.washday', value: demo, unit: 'ms' });
  print({ name: 'assemble.open', value: long, unit: 'ms', against: 1.5 * demo + 500 });
  await page.waitForTimeout(3000);
  for (const [name, keys] of [
    ['assemble.step', ['ArrowDown', 'ArrowDown', 'ArrowUp', 'PageDown']],
    ['assemble.select', ['Shift+ArrowRight']],
    ['assemble.move', ['Alt+ArrowRight', 'Alt+ArrowRight', 'Alt+ArrowLeft']],
  ] as const) {
    const times = await paintTimes(page, keys, 60);
    print({ name: `${name}.p95`, value: quantile(times, 0.95), unit: 'ms', against: 2 * empty });
    print({ name: `${name}.p50`, value: quantile(times, 0.5), unit: 'ms' });
  }
  await page.keyboard.press('Home');
  await page.waitForTimeout(2000);
  await page.keyboard.press('Space');
  await page.waitForFunction(
    () => Number(/ of ([\d,]+)/.exec(document.querySelector('[data-testid=late]')?.textContent ?? '')?.[1] ?? 0) >= 480,
    null,
    {
      timeout: 60_000,
    },
  );
  const late = Number.parseInt((await page.getByTestId('late').textContent()) ?? '', 10);
  print({ name: 'assemble.play.late', value: late, unit: 'frames late of 20 s', against: 0 });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
}
