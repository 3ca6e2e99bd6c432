import { rm } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser, paintTimes } from './browser';
import { print, quantile } from './figure';

/*
 * The longest time the page's own thread was busy with one thing (W3C Long Tasks: none shorter than 50 ms is told), gone through the
 * demo stage by stage, once each is there: stepped, timed, undone, drawn on, filled, played. What loads a stage is told apart. Medians
 * of three runs.
 */
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const STAGES = ['Plan', 'Draw', 'Check', 'Assemble', 'Hand over'] as const;
const CALM_MILLISECONDS = 4000;

type Watched = Window & { tasks?: number[] };

/** Milliseconds of the longest task since the last call. */
const longestTask = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const state = window as Watched;
    const longest = Math.max(0, ...(state.tasks ?? []));
    state.tasks = [];
    return longest;
  });

async function work(page: Page, stage: (typeof STAGES)[number]): Promise<void> {
  await paintTimes(page, ['ArrowDown', 'Shift+ArrowDown', 'ArrowUp'], 30);
  if (stage === 'Plan') await paintTimes(page, ['3', 'ArrowDown', '2', 'Control+z', 'Control+z'], 30);
  if (stage === 'Draw') {
    const box = await page.getByTestId('paper').boundingBox();
    if (!box) throw new Error('There is no paper.');
    await page.mouse.move(box.x + 40, box.y + 60);
    await page.mouse.down();
    for (let move = 0; move < 30; move++) await page.mouse.move(box.x + 40 + move * 8, box.y + 60 + (move % 7) * 9);
    await page.mouse.up();
    await page.keyboard.press('f');
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  }
  await page.keyboard.press('Space');
  await page.waitForTimeout(3000);
  await page.keyboard.press('Space');
}

async function visit(url: string): Promise<{ readonly loading: number; readonly working: number }> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(`globalThis.__name = (named) => named;
    globalThis.tasks = [];
    new PerformanceObserver((list) => { for (const entry of list.getEntries()) globalThis.tasks.push(entry.duration); }).observe({ type: 'longtask', buffered: true });`);
  await page.goto(`${url}/projects/washday/plan`);
  await page.getByRole('gridcell').first().waitFor();
  let [loading, working] = [0, 0];
  for (const stage of STAGES) {
    await page.getByRole('link', { name: new RegExp(`^${stage}`) }).click();
    await page.waitForTimeout(CALM_MILLISECONDS);
    loading = Math.max(loading, await longestTask(page));
    await work(page, stage);
    working = Math.max(working, await longestTask(page));
  }
  await page.close();
  return { loading, working };
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  await fetch(`${server.url}/api/demo`, { method: 'POST' });
  const runs: Awaited<ReturnType<typeof visit>>[] = [];
  for (let round = 0; round < ROUNDS; round++) runs.push(await visit(server.url));
  print({
    name: 'page.longestBlock',
    value: quantile(
      runs.map(({ working }) => working),
      0.5,
    ),
    unit: 'ms',
    against: 50,
  });
  print({
    name: 'page.longestBlock.loading',
    value: quantile(
      runs.map(({ loading }) => loading),
      0.5,
    ),
    unit: 'ms',
  });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
