import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';
import { withClick } from './clicks';
import { greyOf, numberedClip, VP9 } from './clips';
import { expect, test } from './fixtures';
import { emptyProject, sendSteps } from './projects';

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
    defaultViewport: null,
    args: ['--width=1280', '--height=880'],
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

/**
 * Waits until an expression holds in the page. It is asked of the page itself again and again: the driver's own
 * waiting looks on from a world beside the page, whose objects the page may not touch, and the page gets the error.
 */
async function until(page: Page, holds: string): Promise<void> {
  await expect.poll(() => page.evaluate(`Boolean(${holds})`), { message: holds, timeout: 90_000 }).toBe(true);
}

const there = (page: Page, selector: string): Promise<void> => until(page, `document.querySelector(${JSON.stringify(selector)})`);

/** Presses a button once it is there. */
async function press(page: Page, words: string): Promise<void> {
  const button = `[...document.querySelectorAll('button')].find((each) => each.textContent?.startsWith(${JSON.stringify(words)}))`;
  await until(page, button);
  await page.evaluate(`${button}.click()`);
}

const kept = (page: Page): Promise<void> => until(page, `document.querySelector('[data-testid="kept"]')?.dataset.state === 'kept'`);

async function pressKeys(page: Page, held: 'Alt' | 'Shift', key: 'p' | '2' | '3' | '5' | 'ArrowDown'): Promise<void> {
  await page.keyboard.down(held);
  await page.keyboard.press(key);
  await page.keyboard.up(held);
}

/**
 * Notes an error of the page. What the driver lays into a page lies in a world of its own, and where it is touched from the page
 * Firefox refuses that with these words: a page by itself has nothing it could be refused.
 */
function take(errors: string[], error: unknown): void {
  const words = error instanceof Error ? `${error.message}\n${error.stack ?? ''}` : String(error);
  if (words.includes('Permission denied to access property')) console.log(`The driver’s own: ${words}`);
  else errors.push(words);
}

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
    page.on('pageerror', (error) => take(errors, error));
    // With cores to spare films are decoded while they are written, by this browser's own decoder.
    await page.evaluateOnNewDocument(() => Object.defineProperty(navigator, 'hardwareConcurrency', { get: () => 8 }));
    await page.goto(`${app.url}/projects/${id}/hand-over`);
    await there(page, 'nav[aria-label="Stages"]');
    for (const [index, kind] of ['WebM', 'MP4', 'PNG', 'GIF', 'APNG', 'Animated WebP'].entries()) {
      await press(page, kind);
      await press(page, 'Hand over 48 frames');
      await until(
        page,
        `document.querySelectorAll('[data-testid="verdict"]').length > ${index} || document.querySelector('[role="alert"]')`,
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

test('in Firefox every frame of a clip that is stepped to is the one that is due, onwards, from elsewhere and backwards', async ({
  app,
}) => {
  const frames = 72;
  const id = await emptyProject(app.url, { ...FILM, size: { width: 128, height: 72 }, frames: 6 });
  const file = await numberedClip(frames, '24', VP9, 'webm');
  const taken = await fetch(`${app.url}/api/projects/${id}/clips?name=street.webm`, { method: 'POST', body: new Uint8Array(file) });
  const { original } = (await taken.json()) as { original: string };
  const timing = { kind: 'constant' as const, rate: FILM.rate };
  const clip = { original, fileName: 'street.webm', size: { width: 64, height: 36 }, frames, startMicroseconds: 0, timing };
  const item = { id: 'street', kind: 'clip' as const, finished: true, clip, way: 'converted' as const, trim: null };
  await sendSteps(app.url, id, [{ type: 'addItems', items: [{ item, index: 1 }] }]);
  const browser = await firefox(await mkdtemp(path.join(tmpdir(), 'lime-tick-firefox-')));
  try {
    const page = await browser.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => take(errors, error));
    await page.goto(`${app.url}/projects/${id}/assemble`);
    await until(page, `document.querySelectorAll('[role="option"]').length === 2`);
    const picture = `document.querySelector('section[aria-label="Picture"] canvas')`;
    const middle = `((canvas) => canvas.getContext('2d').getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data[1])(${picture})`;
    const now = `Number(document.querySelector('[data-testid="frame-now"]')?.textContent)`;
    const shows = (frame: number) => until(page, `${now} === ${7 + frame} && Math.abs(${middle} - ${greyOf(frame)}) <= 3`);
    await page.keyboard.press('Home');
    for (let step = 0; step < 6; step++) await page.keyboard.press('ArrowDown');
    for (let frame = 0; frame < frames - 1; frame++) {
      await shows(frame);
      await page.keyboard.press('ArrowDown');
    }
    await shows(frames - 1);
    for (const away of [1, 2, 3]) {
      await page.keyboard.press('ArrowUp');
      await shows(frames - 1 - away);
    }
    await page.keyboard.press('Home');
    for (let step = 0; step < 26; step++) await page.keyboard.press('ArrowDown');
    await shows(20);
    expect(errors).toEqual([]);
  } finally {
    await browser.close();
  }
});

test('in Firefox a film is begun, drawn, set on twos, checked, played and handed over', async ({ app }) => {
  const downloads = await mkdtemp(path.join(tmpdir(), 'lime-tick-firefox-'));
  const browser = await firefox(downloads);
  try {
    const page = await browser.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => take(errors, error));
    await page.goto(app.url);
    await until(page, `document.querySelector('h1')?.textContent === 'Lime Tick' && document.querySelector('h2')`);
    await press(page, 'New project');
    await there(page, '[role="dialog"] input');
    await page.keyboard.type('Fox');
    await page.keyboard.press('Enter');
    await there(page, '[role="grid"]');
    // Plan drawings: as many as are offered.
    await pressKeys(page, 'Alt', 'p');
    await there(page, '[role="dialog"]');
    await page.keyboard.press('Enter');
    await until(page, `document.querySelectorAll('[role="gridcell"][data-drawing]').length > 2`);
    const planned = await page.evaluate(() => document.querySelectorAll('[role="gridcell"][data-drawing]').length);

    await pressKeys(page, 'Alt', '2');
    await there(page, '[data-testid="paper"][data-laid="ready"]');
    for (let drawing = 0; drawing < 2; drawing++) {
      const paper = await (await page.$('[data-testid="paper"]'))?.boundingBox();
      if (!paper) throw new Error('There is no paper.');
      const y = paper.y + paper.height * (0.4 + 0.2 * drawing);
      await page.mouse.move(paper.x + paper.width * 0.3, y);
      await page.mouse.down();
      await page.mouse.move(paper.x + paper.width * 0.6, y + 20, { steps: 6 });
      await page.mouse.up();
      await pressKeys(page, 'Shift', 'ArrowDown');
      await there(page, '[data-testid="paper"][data-laid="ready"]');
    }
    await kept(page);
    await until(page, `document.querySelector('nav[aria-label="Stages"]')?.textContent.includes('2 of ${planned} drawn')`);

    await pressKeys(page, 'Alt', '3');
    await until(page, `/finding/.test(document.querySelector('section[aria-label="Findings"] h2')?.textContent ?? '')`);
    await page.keyboard.press(' ');
    await until(page, `/^\\d+ of [1-9]\\d* late/.test(document.querySelector('[data-testid="late"]')?.textContent ?? '')`);
    await page.keyboard.press(' ');

    await pressKeys(page, 'Alt', '5');
    await press(page, 'Hand over 96 frames');
    await until(page, `document.querySelector('[data-testid="verdict"]')?.textContent === 'agrees'`);
    await expect.poll(async () => (await readdir(downloads)).filter((name) => name.endsWith('.mp4')).length).toBe(1);
    const [film] = (await readdir(downloads)).filter((name) => name.endsWith('.mp4'));
    expect(framesIn(path.join(downloads, film ?? ''))).toBe(96);
    expect(errors).toEqual([]);
  } finally {
    await browser.close();
  }
});
