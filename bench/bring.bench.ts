import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser } from './browser';
import { print } from './figure';

const PICTURES = 300;
const SIZE = { width: 1280, height: 720 };

const pictures = await mkdtemp(path.join(tmpdir(), 'lime-tick-bring-'));
const files = Array.from({ length: PICTURES }, (_, index) => path.join(pictures, `leaf_${index + 1}.png`));
for (const [index, file] of files.entries())
  await writeFile(
    file,
    await sharp(Buffer.from(pictureSvg(index, 0, SIZE)))
      .png()
      .toBuffer(),
  );
const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  const made = await fetch(`${server.url}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ title: 'Bring', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 24 }),
  });
  const { id } = (await made.json()) as { id: string };
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${server.url}/projects/${id}/draw`);
  await page.getByRole('grid').waitFor();
  await page.evaluate(() => {
    const state = window as Window & { longestBlock?: number };
    state.longestBlock = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) state.longestBlock = Math.max(state.longestBlock ?? 0, entry.duration);
    }).observe({ type: 'longtask' });
  });
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+i');
  const started = performance.now();
  await (await chooser).setFiles(files);
  await page.getByRole('button', { name: `Bring in ${PICTURES} pictures` }).click({ timeout: 300_000 });
  await page.getByRole('dialog').waitFor({ state: 'hidden', timeout: 60_000 });
  await page.waitForFunction(() => document.querySelector('[data-testid="kept"]')?.getAttribute('data-state') === 'kept', null, {
    timeout: 60_000,
  });
  print({ name: 'bring.300', value: (performance.now() - started) / 1000, unit: 's' });
  const longest = await page.evaluate(() => (window as Window & { longestBlock?: number }).longestBlock ?? Number.NaN);
  print({ name: 'bring.longestBlock', value: longest, unit: 'ms' });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
  await rm(pictures, { recursive: true, force: true });
}
