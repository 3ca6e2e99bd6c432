import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { emptyProject, makeProject, projectOnServer, sendSteps } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import type { Clip } from '../src/core/document/clip';
import { openBrowser, watchPageMemory } from './browser';
import { print, quantile } from './figure';

/*
 * Clips on the reel: playing over 20 cuts, every other item a clip at 25 and the finish on, at 1280 × 720; how long it takes
 * until another frame of a clip of ten minutes in 1080p is shown that is gone to; and the memory of the page meanwhile.
 */
const SECONDS = 20;
const RATE = { num: 25, den: 1 };
const LONG_SECONDS = 600;
const SEEKS = 40;
const ROUND_SECONDS = 20;

const ffmpeg = (...args: readonly string[]) => promisify(execFile)('ffmpeg', ['-v', 'error', '-y', ...args]);

/** A clip of a moving picture, which goes round every twenty seconds. */
async function makeClip(folder: string, name: string, size: string, seconds: number): Promise<Buffer> {
  const [once, file] = [path.join(folder, `once-${name}`), path.join(folder, name)];
  const coded = ['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '38', '-g', '25', '-pix_fmt', 'yuv420p'];
  await ffmpeg('-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=25:duration=${ROUND_SECONDS}`, ...coded, once);
  await ffmpeg('-stream_loop', String(seconds / ROUND_SECONDS - 1), '-i', once, '-c', 'copy', '-movflags', '+faststart', file);
  return readFile(file);
}

async function bring(url: string, projectId: string, name: string, bytes: Buffer, size: Clip['size'], frames: number): Promise<Clip> {
  const answer = await fetch(`${url}/api/projects/${projectId}/clips?name=${name}`, { method: 'POST', body: new Uint8Array(bytes) });
  if (!answer.ok) throw new Error(await answer.text());
  const { original } = (await answer.json()) as { original: string };
  return { original, fileName: name, size, frames, startMicroseconds: 0, timing: { kind: 'constant', rate: RATE } };
}

/** Notes when a picture is drawn where the player shows it. */
const WATCH = `
  globalThis.__name = (named) => named;
  globalThis.drawnAt = [];
  const draw = CanvasRenderingContext2D.prototype.drawImage;
  CanvasRenderingContext2D.prototype.drawImage = function (...rest) {
    if (this.canvas.getAttribute('role') === 'img' && this.canvas.closest('[aria-label=Picture]')) globalThis.drawnAt.push(performance.now());
    return draw.apply(this, rest);
  };`;

/** How long it takes, in milliseconds, from going to a frame by its number until its picture is drawn. */
async function seek(page: Page, number: number): Promise<number> {
  await page.keyboard.press('g');
  await page.getByRole('dialog').getByRole('textbox').fill(String(number));
  const started = await page.evaluate(() => {
    const state = globalThis as typeof globalThis & { drawnAt: number[]; pressedAt: number };
    state.drawnAt.length = 0;
    addEventListener('keydown', (event) => (state.pressedAt = event.timeStamp), { once: true, capture: true });
    return true;
  });
  if (started) await page.keyboard.press('Enter');
  await page.waitForFunction(() => (globalThis as typeof globalThis & { drawnAt: number[] }).drawnAt.length > 0, null, { polling: 5 });
  return page.evaluate(() => {
    const state = globalThis as typeof globalThis & { drawnAt: number[]; pressedAt: number };
    return (state.drawnAt[0] ?? Number.NaN) - state.pressedAt;
  });
}

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(WATCH);
  const size = { width: 1280, height: 720 };
  const film = { title: 'Cuts', rate: { num: 24, den: 1 }, size, frames: 24 };
  const cuts = await makeProject(server.url, film, { drawings: 12, hold: 2 });
  const [shot] = (await projectOnServer(server.url, cuts)).shots;
  const clip = await bring(server.url, cuts, 'cuts.mp4', await makeClip(folder, 'cuts.mp4', '1280x720', 60), size, 1500);
  await sendSteps(server.url, cuts, [
    {
      type: 'addItems',
      items: Array.from({ length: SECONDS - 1 }, (_, index) => ({
        item:
          index % 2 === 0
            ? {
                id: `c${index}`,
                kind: 'clip' as const,
                finished: true,
                clip,
                way: 'converted' as const,
                trim: { fromFrame: index * 70, frames: 24 },
              }
            : { id: `s${index}`, kind: 'shot' as const, finished: true, shotId: shot?.id ?? '', trim: null },
        index: index + 1,
      })),
    },
    {
      type: 'setEffect',
      effectId: 'glow',
      effect: { id: 'glow', kind: 'layOver', deviationPx: 6, mode: 'screen', opacityPercent: 35, inPreview: true, inHandover: true },
      index: 0,
    },
  ]);
  for (let run = 0; run < 3; run++) {
    await page.goto(`${server.url}/projects/${cuts}/assemble`);
    await page.getByRole('option').first().waitFor();
    await page.waitForTimeout(2000);
    await page.keyboard.press('Space');
    await page.waitForFunction(
      (ticks) => Number(/ of ([\d,]+)/.exec(document.querySelector('[data-testid=late]')?.textContent ?? '')?.[1] ?? 0) >= ticks,
      SECONDS * 24,
      { timeout: 120_000 },
    );
    print({
      name: 'clips.play.late',
      value: Number.parseInt((await page.getByTestId('late').textContent()) ?? '', 10),
      unit: 'frames late of 20 s',
      against: 0,
    });
    await page.keyboard.press('Space');
  }
  await page.close();

  for (const [name, size, text] of [
    ['clips.seek', { width: 1280, height: 720 }, '1280x720'],
    ['clips.seek.1080', { width: 1920, height: 1080 }, '1920x1080'],
  ] as const) {
    const id = await emptyProject(server.url, { ...film, size, title: name, frames: 1 });
    const bytes = await makeClip(folder, `${name}.mp4`, text, LONG_SECONDS);
    const whole = await bring(server.url, id, `${name}.mp4`, bytes, size, LONG_SECONDS * 25);
    const item = { id: 'long', kind: 'clip' as const, finished: true, clip: whole, way: 'converted' as const, trim: null };
    await sendSteps(server.url, id, [{ type: 'addItems', items: [{ item, index: 1 }] }]);
    const seeking = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await seeking.addInitScript(WATCH);
    const memory = watchPageMemory();
    await seeking.goto(`${server.url}/projects/${id}/assemble`);
    await seeking.getByRole('option').first().waitFor();
    await seeking.waitForTimeout(2000);
    const times: number[] = [];
    for (let index = 0; index < SEEKS; index++) times.push(await seek(seeking, 2 + ((index * 5_701) % (LONG_SECONDS * 24))));
    print({ name: `${name}.p95`, value: quantile(times, 0.95), unit: 'ms', against: 150 });
    print({ name: `${name}.p50`, value: quantile(times, 0.5), unit: 'ms' });
    await seeking.keyboard.press('Space');
    await seeking.waitForTimeout(20_000);
    memory.print(`${name}.memory`, 400);
    await seeking.close();
  }
} finally {
  await browser.close();
  await server.kill('SIGTERM');
}
