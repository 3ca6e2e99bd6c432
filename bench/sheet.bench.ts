import { performance } from 'node:perf_hooks';
import type { Browser } from '@playwright/test';
import { makeLargeShot } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser, paintTimes } from './browser';
import { print, quantile } from './figure';

/*
 * A step on the sheet, and a length set on it, against an empty page in the same run: from the key to the task after the frame that
 * shows it. Medians of three runs.
 */
const LARGE = { levels: 20, frames: 10_000 };
const SMALL = { levels: 4, frames: 96 };
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const STEPS = ['ArrowDown', 'ArrowDown', 'ArrowRight', 'Shift+ArrowDown', 'ArrowLeft'];
const LENGTHS = ['2', 'ArrowDown', '1', 'ArrowDown', '3'];

type Times = { readonly p50: number; readonly p95: number };
const timesOf = (times: readonly number[]): Times => ({ p50: quantile(times, 0.5), p95: quantile(times, 0.95) });
const median = (values: readonly number[]) => quantile(values, 0.5);

const folder = await newDataFolder();
const server = await startServer(folder);

async function sheetTimes(browser: Browser, projectId: string, keys: readonly string[]): Promise<Times> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.goto(`${server.url}/projects/${projectId}/plan`);
  await page.getByRole('gridcell').first().waitFor();
  await page.waitForTimeout(3000);
  const times = timesOf(await paintTimes(page, keys));
  await page.close();
  return times;
}

async function emptyTimes(browser: Browser): Promise<Times> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.setContent('<p>An empty page, to know what the waiting for the next frame alone takes.</p>');
  const times = timesOf(await paintTimes(page, ['ArrowDown']));
  await page.close();
  return times;
}

const browser = await openBrowser();
try {
  const large = await makeLargeShot(server.url, LARGE);
  const small = await makeLargeShot(server.url, SMALL);
  const rounds: { empty: Times; step: Times; small: Times; length: Times }[] = [];
  for (let round = 0; round < ROUNDS; round++)
    rounds.push({
      empty: await emptyTimes(browser),
      step: await sheetTimes(browser, large, STEPS),
      small: await sheetTimes(browser, small, STEPS),
      length: await sheetTimes(browser, large, LENGTHS),
    });
  const of = (what: 'empty' | 'step' | 'small' | 'length', part: 'p50' | 'p95') => median(rounds.map((round) => round[what][part]));
  for (const part of ['p50', 'p95'] as const) {
    const against = of('empty', part);
    print({ name: `sheet.step.${part}`, value: of('step', part), unit: 'ms', against, ratio: of('step', part) / against });
    print({ name: `sheet.length.${part}`, value: of('length', part), unit: 'ms', against, ratio: of('length', part) / against });
  }
  print({
    name: 'sheet.step.growth',
    value: of('step', 'p50'),
    unit: 'ms',
    against: of('small', 'p50'),
    ratio: of('step', 'p50') / of('small', 'p50'),
  });

  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${server.url}/projects/${large}/plan`);
  const opening: number[] = [];
  for (let round = 0; round < 5; round++) {
    const started = performance.now();
    await page.reload();
    await page.getByRole('gridcell').first().waitFor();
    opening.push(performance.now() - started);
  }
  print({ name: 'sheet.open.p50', value: quantile(opening, 0.5), unit: 'ms' });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
}
