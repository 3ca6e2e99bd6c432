import { performance } from 'node:perf_hooks';
import { makeLargeShot } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser, paintTimes } from './browser';
import { print, quantile } from './figure';

const LEVELS = 20;
const FRAMES = 10_000;
const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  const projectId = await makeLargeShot(server.url, { levels: LEVELS, frames: FRAMES });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.setContent('<p>An empty page, to know what the waiting for the next frame alone takes.</p>');
  const waits = await paintTimes(page, ['ArrowDown']);
  print({ name: 'sheet.paint.emptyPage.p50', value: quantile(waits, 0.5), unit: 'ms' });
  print({ name: 'sheet.paint.emptyPage.p95', value: quantile(waits, 0.95), unit: 'ms' });
  await page.goto(`${server.url}/projects/${projectId}/plan`);
  await page.getByRole('grid').waitFor();
  const opening: number[] = [];
  for (let round = 0; round < 5; round++) {
    const started = performance.now();
    await page.reload();
    await page.getByRole('gridcell').first().waitFor();
    opening.push(performance.now() - started);
  }
  print({ name: 'sheet.open.p50', value: quantile(opening, 0.5), unit: 'ms' });
  await page.waitForTimeout(3000);
  for (const [name, keys] of [
    ['sheet.paint', ['ArrowDown', 'ArrowDown', 'ArrowRight', 'Shift+ArrowDown', 'ArrowLeft']],
    ['sheet.paint.length', ['2', 'ArrowDown', '1', 'ArrowDown', '3']],
  ] as const) {
    const times = await paintTimes(page, keys);
    print({ name: `${name}.p50`, value: quantile(times, 0.5), unit: 'ms' });
    print({ name: `${name}.p95`, value: quantile(times, 0.95), unit: 'ms' });
  }
} finally {
  await browser.close();
  await server.kill('SIGTERM');
}
