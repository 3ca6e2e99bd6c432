import { execFileSync } from 'node:child_process';
import { readdir, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import sharp from 'sharp';
import { sampleOfFrame } from '../src/core/document/sound';
import { SAMPLE_RATE, withClick } from './clicks';
import { expect, openStage, test } from './fixtures';
import { heardByFfmpeg } from './heard';
import { probe } from './probe';
import { makeProject } from './projects';

/*
 * Films by the outside encoder, counted and listened to by ffprobe and ffmpeg, and held against picture files of the same
 * frames, which sharp reads.
 */

const KINDS = [
  { container: 'MOV', codec: 'ProRes', probed: 'prores', sound: 'PCM, 24 bit' },
  { container: 'MOV', codec: 'PNG', probed: 'png', sound: 'PCM, 24 bit' },
  { container: 'MOV', codec: 'FFV1', probed: 'ffv1', sound: 'PCM, 24 bit' },
  { container: 'MKV', codec: 'FFV1', probed: 'ffv1', sound: 'FLAC' },
  { container: 'MKV', codec: 'PNG', probed: 'png', sound: 'PCM, 24 bit' },
] as const;

/** Of all kinds, or of the first of each container. */
const FILMS = [
  { rate: { num: 24000, den: 1001 }, frames: 96, startFrame: 50, kinds: KINDS },
  { rate: { num: 25, den: 1 }, frames: 1, startFrame: 0, kinds: [KINDS[0], KINDS[3]] },
  { rate: { num: 60000, den: 1001 }, frames: 7, startFrame: 3, kinds: [KINDS[1], KINDS[3]] },
  { rate: { num: 12, den: 1 }, frames: 397, startFrame: 300, kinds: [KINDS[3]] },
] as const;

const codecOf = (page: Page, codec: string) =>
  page.getByRole('radiogroup', { name: 'Picture', exact: true }).getByRole('radio', { name: codec });

/** Folders of films that are being made on this machine. */
const filmFolders = async (): Promise<string[]> => (await readdir(tmpdir())).filter((name) => name.startsWith('lime-tick-film-')).sort();

async function handOver(page: Page): Promise<string> {
  const receipts = await page.getByRole('article').count();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  const file = await (await download).path();
  await expect(page.getByRole('article')).toHaveCount(receipts + 1);
  const receipt = page.getByRole('article').first();
  expect(await receipt.getByTestId('verdict').textContent(), (await receipt.textContent()) ?? '').toBe('agrees');
  return file;
}

for (const { rate, frames, startFrame, kinds } of FILMS) {
  test(`films by the outside encoder, of ${frames} frames at ${rate.num}/${rate.den}, are counted and heard alike`, async ({
    page,
    app,
  }) => {
    test.setTimeout(240_000);
    const atSample = 300;
    const projectId = await withClick(app.url, rate, frames, startFrame, atSample);
    await openStage(page, app.url, projectId, 'hand-over');
    for (const { container, codec, probed, sound } of kinds) {
      const what = `${codec} in ${container}`;
      await page.getByRole('radio', { name: container, exact: true }).click();
      await codecOf(page, codec).click();
      await page.getByRole('radio', { name: sound, exact: true }).click();
      const file = await handOver(page);
      const film = probe(file);
      expect({ frames: film.frames, codec: film.codec, width: film.width }, what).toEqual({ frames, codec: probed, width: 64 });
      const tolerance = container === 'MOV' ? 0.000_002 : 0.001;
      for (const [frame, time] of film.times.entries())
        expect(Math.abs(time - (frame * rate.den) / rate.num), what).toBeLessThan(tolerance);
      const heard = heardByFfmpeg(file);
      expect(heard, what).toEqual({
        samples: sampleOfFrame(frames, rate, SAMPLE_RATE),
        clickAt: sampleOfFrame(startFrame, rate, SAMPLE_RATE) + atSample,
      });
    }
  });
}

/** Every frame of a film as ffmpeg reads it: RGBA. */
const pixelsIn = (file: string): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'], { maxBuffer: 1 << 28 });

/** What sharp reads of the picture files in a ZIP, one after another: RGBA. */
async function pixelsOfPngs(file: string): Promise<Buffer> {
  const reader = new ZipReader(new BlobReader(new Blob([await readFile(file)])));
  const pixels: Buffer[] = [];
  for (const entry of await reader.getEntries())
    if (!entry.directory)
      pixels.push(
        await sharp(await entry.getData(new Uint8ArrayWriter()))
          .ensureAlpha()
          .raw()
          .toBuffer(),
      );
  return Buffer.concat(pixels);
}

test('kept films hold every pixel of the pictures, with their transparency, and a timecode to start with', async ({ page, app }) => {
  test.setTimeout(120_000);
  const before = await filmFolders();
  const film = { title: 'Kept', rate: { num: 24, den: 1 }, size: { width: 96, height: 54 }, frames: 12 };
  const projectId = await makeProject(app.url, film, { drawings: 4, hold: 3 });
  await openStage(page, app.url, projectId, 'hand-over');
  for (const ground of ['With background', 'Without']) {
    await page.getByRole('radio', { name: ground }).click();
    await page.getByRole('radio', { name: 'PNG', exact: true }).first().click();
    const meant = await pixelsOfPngs(await handOver(page));
    // Transparency is the codec's affair: once each is enough, as is the background for the others.
    for (const { container, codec } of ground === 'Without' ? KINDS.slice(0, 3) : KINDS.slice(2)) {
      const what = `${codec} in ${container}, ${ground}`;
      await page.getByRole('radio', { name: container, exact: true }).click();
      await codecOf(page, codec).click();
      if (ground === 'Without') await page.getByRole('radio', { name: 'Transparent', exact: true }).click();
      for (const bits of codec === 'FFV1' ? ['8 bit', '10 bit'] : ['']) {
        if (bits !== '') await page.getByRole('radio', { name: bits }).click();
        const pixels = pixelsIn(await handOver(page));
        expect(pixels.length, what).toBe(meant.length);
        const apart = pixels.reduce((most, value, at) => Math.max(most, Math.abs(value - (meant[at] as number))), 0);
        const mean = pixels.reduce((sum, value, at) => sum + Math.abs(value - (meant[at] as number)), 0) / pixels.length;
        if (codec === 'ProRes') expect(mean, what).toBeLessThan(3);
        else if (bits === '10 bit' && ground === 'Without') expect(mean, `${what}, at most ${apart}`).toBeLessThan(0.5);
        else expect(apart, what).toBe(0);
      }
    }
  }
  await page.getByRole('radio', { name: 'MOV', exact: true }).click();
  await page.getByText('What the file says of itself').click();
  await page.getByLabel('Timecode of the first frame').fill('01:00:00:00');
  await page.getByLabel('Timecode of the first frame').press('Enter');
  const file = await handOver(page);
  expect(
    execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'stream_tags=timecode', '-of', 'csv=p=0', file], { encoding: 'utf8' }),
  ).toContain('01:00:00:00');
  // Nothing is left of them on the server.
  await expect.poll(filmFolders).toEqual(before);
});

test('a film with the outside encoder is stopped in any phase, and nothing of it is left', async ({ page, app }) => {
  test.setTimeout(240_000);
  const before = await filmFolders();
  const film = { title: 'Stopped', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 600 };
  const projectId = await makeProject(app.url, film, { drawings: 60, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'MKV', exact: true }).click();
  await codecOf(page, 'FFV1').click();
  const queue = page.getByRole('region', { name: 'Handing over' });
  for (const phase of [/sending \d+ pictures? to the encoder/, /the encoder writes frames/, /counting/]) {
    await page.getByRole('button', { name: 'Hand over 600 frames' }).click();
    // Each comes once what is before it is done, which takes as long as the machine takes.
    await expect(queue.getByText(phase)).toBeVisible({ timeout: 60_000 });
    await queue.getByRole('button', { name: 'Stop' }).click();
    await expect(queue.getByText('stopped')).toBeVisible();
    await queue.getByRole('button', { name: /^Take .* out$/ }).click();
    await expect(page.getByRole('article')).toHaveCount(0);
  }
  await expect.poll(filmFolders).toEqual(before);
});
