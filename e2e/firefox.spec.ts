import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';
import { withClick } from './clicks';
import { expect, test } from './fixtures';

/*
 * Another browser than the one the tests are run in: Debian's Firefox, driven through WebDriver BiDi. Its
 * decoders hand out other frames than the ones that were written.
 */

const FILM = { title: 'Elsewhere', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 48 };

async function firefox(downloads: string): Promise<Browser> {
  return puppeteer.launch({
    browser: 'firefox',
    executablePath: process.env.FIREFOX ?? '/usr/bin/firefox-esr',
    headless: true,
    extraPrefsFirefox: {
      'browser.download.folderList': 2,
      'browser.download.dir': downloads,
      'browser.download.always_ask_before_handling_new_types': false,
      'app.update.enabled': false,
      'network.captive-portal-service.enabled': false,
      'network.connectivity-service.enabled': false,
    },
  });
}

const press = (page: Page, words: string) =>
  page.evaluate((wanted) => {
    const button = [...document.querySelectorAll('button')].find((each) => each.textContent?.startsWith(wanted));
    if (!button) throw new Error(`There is no button “${wanted}”.`);
    button.click();
  }, words);

/** How many frames ffprobe decodes from a film. */
const framesIn = (file: string): number =>
  Number(
    execFileSync(
      'ffprobe',
      ['-v', 'error', '-count_frames', '-select_streams', 'v:0', '-show_entries', 'stream=nb_read_frames', '-of', 'csv=p=0', file],
      { encoding: 'utf8' },
    )
      .trim()
      .replace(/,$/, ''),
  );

test('in Firefox films, pictures and loops are handed over, opened again, counted, and agree', async ({ app }) => {
  const id = await withClick(app.url, FILM.rate, FILM.frames, 24, 300);
  const downloads = await mkdtemp(path.join(tmpdir(), 'lime-tick-firefox-'));
  const browser = await firefox(downloads);
  try {
    const page = await browser.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(String(error)));
    // With cores to spare films are decoded while they are written, by this browser's own decoder.
    await page.evaluateOnNewDocument(() => Object.defineProperty(navigator, 'hardwareConcurrency', { get: () => 8 }));
    await page.goto(`${app.url}/projects/${id}/hand-over`);
    await page.waitForSelector('nav[aria-label="Stages"]');
    for (const [index, kind] of ['WebM', 'MP4', 'PNG', 'GIF', 'APNG', 'Animated WebP'].entries()) {
      await press(page, kind);
      await press(page, 'Hand over 48 frames');
      await page.waitForFunction(
        (count) => document.querySelectorAll('[data-testid="verdict"]').length > count || document.querySelector('[role="alert"]'),
        { timeout: 90_000 },
        index,
      );
      expect(await page.evaluate(() => document.querySelector('[role="alert"]')?.textContent ?? null)).toBeNull();
      const [verdict, receipt] = await page.evaluate(() => [
        document.querySelector('[data-testid="verdict"]')?.textContent,
        document.querySelector('article')?.textContent ?? '',
      ]);
      expect(verdict, receipt).toBe('agrees');
      if (kind === 'WebM' || kind === 'MP4') expect(receipt).toContain('the packets in the file are the very same, by their SHA-256');
    }
    await expect.poll(async () => (await readdir(downloads)).filter((name) => !name.endsWith('.part')).length).toBe(6);
    const films = (await readdir(downloads)).filter((name) => /\.(mp4|webm)$/.test(name));
    expect(films.map((name) => framesIn(path.join(downloads, name)))).toEqual([48, 48]);
    expect(errors).toEqual([]);
  } finally {
    await browser.close();
  }
});
