import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { sampleOfFrame } from '../src/core/document/sound';
import { SAMPLE_RATE, withClick } from './clicks';
import { expect, openStage, test } from './fixtures';
import { framesByMediainfo, tracksIn } from './mediainfo';

/*
 * What is handed over, read by small programs that share no code with a browser or with ffmpeg: mediainfo, the Matroska tools,
 * the FLAC and SoX tools, pngcheck and libtiff's. They must say what the receipt says.
 */

const RATE = { num: 30_000, den: 1001 };
const FRAMES = 97;
const SAMPLES = sampleOfFrame(FRAMES, RATE, SAMPLE_RATE);

const run = (program: string, ...args: string[]): string => execFileSync(program, args, { encoding: 'utf8', maxBuffer: 1 << 26 });

async function handOver(page: Page): Promise<string> {
  const receipts = await page.getByRole('article').count();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  const file = await (await download).path();
  await expect(page.getByRole('article')).toHaveCount(receipts + 1);
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  return file;
}

test('films are what their receipts say to mediainfo, the Matroska tools, FLAC and SoX', async ({ page, app }) => {
  test.setTimeout(120_000);
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-readers-'));
  const projectId = await withClick(app.url, RATE, FRAMES, 50, 300);
  await openStage(page, app.url, projectId, 'hand-over');
  const films = [
    { container: 'MP4', sound: 'AAC', format: 'AAC' },
    { container: 'MOV', sound: 'PCM, 24 bit', format: 'PCM' },
    { container: 'WebM', sound: 'Opus', format: 'Opus' },
    { container: 'MKV', sound: 'FLAC', format: 'FLAC' },
  ];
  for (const { container, sound, format } of films) {
    await page.getByRole('radio', { name: container, exact: true }).click();
    await page.getByRole('radio', { name: sound, exact: true }).click();
    const file = await handOver(page);
    const [video, audio] = ['Video', 'Audio'].map((type) => tracksIn(file).find((track) => track['@type'] === type) ?? {});
    expect(video, container).toMatchObject({ Width: '64', Height: '36' });
    expect(framesByMediainfo(file), container).toBe(FRAMES);
    expect(Number(video?.FrameRate), container).toBeCloseTo(RATE.num / RATE.den, 2);
    expect(audio?.Format, container).toBe(format);
    expect(Number(audio?.SamplingRate), container).toBe(SAMPLE_RATE);

    if (container === 'MKV') {
      const told = run('mkvinfo', file);
      expect(told).toContain('Codec ID: V_VP9');
      expect(told).toContain('Codec ID: A_FLAC');
      const flac = path.join(folder, 'sound.flac');
      run('mkvextract', file, 'tracks', `1:${flac}`);
      // A stream that was begun before its end was known says neither its length nor its digest (RFC 9639, 8.2): it is decoded.
      const wav = path.join(folder, 'kept.wav');
      run('flac', '--decode', '--totally-silent', '-o', wav, flac);
      expect(Number(run('sox', '--i', '-s', wav))).toBe(SAMPLES);
    }
    if (container === 'MOV') {
      const wav = path.join(folder, 'sound.wav');
      run('ffmpeg', '-v', 'error', '-i', file, '-map', '0:a', '-c', 'copy', wav);
      expect(Number(run('sox', '--i', '-s', wav))).toBe(SAMPLES);
      expect(Number(run('sox', '--i', '-b', wav))).toBe(24);
    }
  }
  await rm(folder, { recursive: true });
});

/** The picture files of a ZIP, laid into a folder. */
async function unpacked(zip: string, folder: string): Promise<readonly string[]> {
  const reader = new ZipReader(new BlobReader(new Blob([await readFile(zip)])));
  const files: string[] = [];
  for (const entry of await reader.getEntries()) {
    if (entry.directory) continue;
    const file = path.join(folder, entry.filename.replaceAll('/', '-'));
    await writeFile(file, await entry.getData(new Uint8ArrayWriter()));
    files.push(file);
  }
  return files;
}

test('pictures are sound to pngcheck and tiffinfo, with their size, depth, transparency and colours', async ({ page, app }) => {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-readers-'));
  const projectId = await withClick(app.url, RATE, 6, 0, 300);
  await openStage(page, app.url, projectId, 'hand-over');
  for (const ground of ['With background', 'Without']) {
    await page.getByRole('radio', { name: ground }).click();
    await page.getByRole('radio', { name: 'PNG', exact: true }).first().click();
    for (const bits of ['8 bit', '16 bit']) {
      await page.getByRole('radio', { name: bits }).click();
      const files = await unpacked(await handOver(page), folder);
      expect(files).toHaveLength(6);
      for (const file of files) {
        const told = run('pngcheck', '-v', file);
        // On paper a browser may keep a transparency that is nowhere seen.
        const pixels = bits === '8 bit' ? (ground === 'Without' ? '32' : '(24|32)') : ground === 'Without' ? '64' : '48';
        expect(told).toMatch(new RegExp(`64 x 36 image, ${pixels}-bit RGB`));
        expect(told).toMatch(/chunk sRGB/);
        expect(told).toContain('No errors detected');
      }
    }
    await page.getByRole('radio', { name: 'TIFF', exact: true }).click();
    for (const file of await unpacked(await handOver(page), folder)) {
      const told = run('tiffinfo', file);
      expect(told).toMatch(/Image Width: 64 Image Length: 36/);
      expect(told).toContain('Bits/Sample: 8');
      expect(told).toContain(`Samples/Pixel: ${ground === 'Without' ? 4 : 3}`);
      if (ground === 'Without') expect(told).toMatch(/Extra Samples: 1<unassoc-alpha>/);
    }
  }
  await rm(folder, { recursive: true });
});

test('a receipt opens as a page to print, with the digest of every frame', async ({ page, app }) => {
  const projectId = await withClick(app.url, RATE, 6, 0, 300);
  await openStage(page, app.url, projectId, 'hand-over');
  await handOver(page);
  const popup = page.waitForEvent('popup');
  await page.getByRole('button', { name: 'Receipt to print' }).click();
  const sheet = await popup;
  await expect(sheet.getByRole('heading', { level: 1 })).toHaveText('click_reel_29-97.mp4');
  await expect(sheet.getByText('agrees', { exact: true })).toBeVisible();
  await expect(sheet.getByRole('row', { name: /^frames 6 6/ })).toBeVisible();
  await expect(sheet.getByText('bt709, limited range')).toBeVisible();
  await expect(sheet.locator('tbody').nth(1).getByRole('row')).toHaveCount(6);
});
