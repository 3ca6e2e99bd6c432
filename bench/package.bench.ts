import { readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import sharp from 'sharp';
import { makeProject, pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser, watchPageMemory } from './browser';
import { print, quantile } from './figure';

/*
 * A package of 1,000 pictures of 1280x720, out and in through the screens a person uses, against copying the same bytes into a
 * ZIP with a kept library; and the memory of the page meanwhile.
 */

const SIZE = { width: 1280, height: 720 };
const PICTURES = 1000;
const ROUNDS = Number(process.env.ROUNDS ?? 3);

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
const seconds = (from: number): number => (performance.now() - from) / 1000;
try {
  const id = await makeProject(
    server.url,
    { title: 'Packed', rate: { num: 24, den: 1 }, size: SIZE, frames: PICTURES },
    { drawings: PICTURES, hold: 1 },
  );
  const pngs: Buffer[] = [];
  for (let index = 0; index < PICTURES; index++)
    pngs.push(
      await sharp(Buffer.from(pictureSvg(index, 0, SIZE)))
        .png()
        .toBuffer(),
    );
  const [copied, out, taken]: [number[], number[], number[]] = [[], [], []];
  const [outMemory, inMemory] = [watchPageMemory(), watchPageMemory()];
  for (const each of [outMemory, inMemory]) each.rest();
  for (let round = 0; round < ROUNDS; round++) {
    const copying = performance.now();
    const zip = new ZipWriter(new Uint8ArrayWriter(), { level: 0, useWebWorkers: false });
    for (const [index, png] of pngs.entries()) await zip.add(`${index}.png`, new Uint8ArrayReader(png));
    await zip.close();
    copied.push(seconds(copying));

    // Each in a page of its own: what another screen has left in memory is none of a package's.
    const page = await browser.newPage();
    await page.goto(`${server.url}/projects/${id}/hand-over`);
    await page.getByRole('button', { name: 'Save as a package' }).waitFor();
    outMemory.goOn();
    const leaving = performance.now();
    const download = page.waitForEvent('download', { timeout: 300_000 });
    await page.getByRole('button', { name: 'Save as a package' }).click();
    const saved = await download;
    await saved.path();
    out.push(seconds(leaving));
    outMemory.rest();
    const file = join(folder, `out-${round}.limetick`);
    await saved.saveAs(file);
    await page.close();
    if ((await readFile(file)).byteLength < 1_000_000) throw new Error('The package is too small.');

    const taking = await browser.newPage();
    await taking.goto(server.url);
    inMemory.goOn();
    const coming = performance.now();
    await taking.getByLabel('A package').setInputFiles(file);
    await taking.getByRole('button', { name: 'Bring in as a project' }).click({ timeout: 300_000 });
    await taking.waitForURL(/\/plan(\?|$)/, { timeout: 300_000 });
    taken.push(seconds(coming));
    inMemory.rest();
    await taking.close();
  }
  const against = quantile(copied, 0.5);
  for (const [name, times] of [
    ['package.out', out],
    ['package.in', taken],
  ] as const) {
    const value = quantile(times, 0.5);
    print({ name, value, unit: 's', against, ratio: value / against });
  }
  outMemory.print('package.out.memory', 300);
  inMemory.print('package.in.memory', 300);
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
