import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import Papa from 'papaparse';
import sharp from 'sharp';
import type { Step } from '../src/core/edit/step';
import { PICTURE_KIND_FACTS, PICTURE_KINDS, type PictureKind } from '../src/core/output/pictures';
import { expect, openStage, test } from './fixtures';
import { emptyProject, makeProject, pictureFile, projectOnServer, sendSteps } from './projects';

/* Picture files of every kind, read by programs that know nothing of ours: sharp (libpng, libtiff, libjpeg, libwebp) and ffmpeg. */

const SIZE = { width: 81, height: 45 };
const FILM = { title: 'Pictures', rate: { num: 24, den: 1 }, size: SIZE, frames: 12 };

/** Hands over and gives the files of the ZIP that comes, when its receipt agrees. */
async function handOver(page: Page): Promise<ReadonlyMap<string, Uint8Array>> {
  const receipts = await page.getByRole('article').count();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  const bytes = await readFile(await (await download).path());
  await expect(page.getByRole('article')).toHaveCount(receipts + 1);
  expect(await page.getByTestId('verdict').first().textContent(), (await page.getByRole('article').first().textContent()) ?? '').toBe(
    'agrees',
  );
  const reader = new ZipReader(new BlobReader(new Blob([bytes])));
  const files = new Map<string, Uint8Array>();
  for (const entry of await reader.getEntries())
    if (!entry.directory) files.set(entry.filename, await entry.getData(new Uint8ArrayWriter()));
  return files;
}

/** What ffmpeg reads of a picture file: RGBA. */
async function byFfmpeg(bytes: Uint8Array, extension: string): Promise<Buffer> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-picture-'));
  const file = path.join(folder, `a.${extension}`);
  await writeFile(file, bytes);
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'], { maxBuffer: 1 << 26 });
  await rm(folder, { recursive: true });
  return raw;
}

const READ_BY_SHARP: ReadonlySet<PictureKind> = new Set(['png', 'jpeg', 'webp', 'tiff']);
const pixelsIn = async (kind: PictureKind, bytes: Uint8Array): Promise<Buffer> =>
  READ_BY_SHARP.has(kind)
    ? sharp(bytes, { ignoreIcc: true }).ensureAlpha().raw().toBuffer()
    : byFfmpeg(bytes, PICTURE_KIND_FACTS[kind].extension);

const meanApart = (a: Buffer, b: Buffer): number => a.reduce((sum, value, at) => sum + Math.abs(value - (b[at] as number)), 0) / a.length;

test('every kind holds the pictures that were drawn, on paper and without it, as other programs read them', async ({ page, app }) => {
  test.setTimeout(180_000);
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  for (const ground of ['With background', 'Without']) {
    await page.getByRole('radio', { name: ground }).click();
    let meant: Buffer | null = null;
    for (const kind of PICTURE_KINDS) {
      const { name, extension, alphas } = PICTURE_KIND_FACTS[kind];
      await page.getByRole('radio', { name, exact: true }).click();
      const files = await handOver(page);
      const names = [...files.keys()];
      expect(names).toHaveLength(12);
      expect([names[0], names[11]]).toEqual([`pictures_reel.0001.${extension}`, `pictures_reel.0012.${extension}`]);
      const pixels = await pixelsIn(kind, files.get(names[4] ?? '') as Uint8Array);
      meant ??= pixels;
      expect(pixels.length, name).toBe(SIZE.width * SIZE.height * 4);
      if (kind === 'jpeg') {
        if (ground === 'With background') expect(meanApart(pixels, meant), name).toBeLessThan(6);
      } else if (kind === 'webp' && ground === 'Without') {
        // The browser makes it on a canvas, which keeps half-transparent colours a little off.
        expect(meanApart(pixels, meant), name).toBeLessThan(1);
      } else expect(meanApart(pixels, meant), `${name}, ${ground}`).toBe(0);
      const isClear = pixels.some((value, at) => at % 4 === 3 && value === 0);
      expect(isClear, name).toBe(ground === 'Without' && alphas.length > 0);
    }
  }
});

/** Every transparency with every value of a channel: RGBA, a transparency a row. */
const everyColour = (): Buffer =>
  Buffer.from(Array.from({ length: 256 * 256 }, (_, at) => [at % 256, 255 - (at % 256), (at * 7) % 256, Math.floor(at / 256)]).flat());

test('a drawing that is all of a picture leaves with the colours it was brought in with, each of them', async ({ page, app }) => {
  const film = { title: 'Colours', rate: { num: 24, den: 1 }, size: { width: 256, height: 256 }, frames: 1 };
  const projectId = await emptyProject(app.url, film);
  const shot = (await projectOnServer(app.url, projectId)).shots[0];
  const level = shot?.levels[0];
  if (!shot || !level) throw new Error('A new project has a shot with a level.');
  const every = everyColour();
  const stored = await pictureFile(
    await sharp(every, { raw: { width: 256, height: 256, channels: 4 } })
      .png()
      .toBuffer(),
    film.size,
  );
  const at = { shotId: shot.id, levelId: level.id };
  const steps: Step[] = [
    { type: 'addDrawing', ...at, drawing: { id: 'd', number: '1', role: 'key', picture: stored.digest }, index: 0 },
    { type: 'replaceRuns', ...at, startFrame: 0, removedFrames: 0, runs: [{ drawing: 'd', frames: 1 }] },
  ];
  await sendSteps(app.url, projectId, steps, [stored]);
  // What is not seen at all has no colour.
  for (let pixel = 3; pixel < every.length; pixel += 4) if (every[pixel] === 0) every.fill(0, pixel - 3, pixel);
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Without' }).click();
  for (const kind of ['png', 'tiff', 'tga', 'bmp'] as const) {
    await page.getByRole('radio', { name: PICTURE_KIND_FACTS[kind].name, exact: true }).click();
    const [file] = [...(await handOver(page)).values()];
    if (!file) throw new Error('There is no picture.');
    expect(Buffer.compare(await pixelsIn(kind, file), every), kind).toBe(0);
  }
});

test('a part of the demo’s reel leaves as pictures and agrees; what its clip repeats by itself is said', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'hand-over');
  await page.getByRole('radio', { name: 'PNG', exact: true }).first().click();
  await page.getByLabel('From frame').fill('261');
  await page.getByLabel('To frame').fill('272');
  expect(await handOver(page)).toHaveProperty('size', 12);
  // ffmpeg finds the fourth picture of the clip (which lies from frame 265 on) to be the third once more.
  await expect(page.getByRole('article').first()).toContainText(
    'A clip shows the same picture twice in a row, as its own file does, on frame 268.',
  );
});

test('16 bits, premultiplied colours and the sRGB of a PNG are as told', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Without' }).click();
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  const [eight] = [...(await handOver(page)).values()];
  await page.getByRole('radio', { name: '16 bit' }).click();
  const [sixteen] = [...(await handOver(page)).values()];
  if (!eight || !sixteen) throw new Error('There are no pictures.');
  expect(Buffer.from(eight).includes(Buffer.from('sRGB'))).toBe(true);
  expect((await sharp(sixteen).metadata()).depth).toBe('ushort');
  const long = await sharp(sixteen).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
  const words = new Uint16Array(long.buffer, long.byteOffset, long.byteLength / 2);
  const short = await sharp(eight).raw().toBuffer();
  expect(words.every((value, at) => value === (short[at] as number) * 257)).toBe(true);

  await page.getByRole('radio', { name: 'TIFF', exact: true }).click();
  await page.getByRole('radio', { name: 'Premultiplied' }).click();
  const [associated] = [...(await handOver(page)).values()];
  // The strip's own samples: colours multiplied by their transparency, rounded.
  const samples = await byFfmpeg(associated as Uint8Array, 'tif');
  const multiplied = Buffer.from(short);
  for (let at = 0; at < short.length; at += 4)
    for (let channel = at; channel < at + 3; channel++)
      multiplied[channel] = Math.round(((short[channel] as number) * (short[at + 3] as number)) / 255);
  expect(samples.equals(multiplied)).toBe(true);
});

test('one file a drawing comes with a list of its frames; levels leave each by itself, in folders, under names of one’s own', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 3, hold: 2, levels: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('radio', { name: 'Drawing', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Hand over 3 files' })).toBeVisible();
  const drawings = await handOver(page);
  expect([...drawings.keys()]).toEqual(['pictures_reel.0001.png', 'pictures_reel.0003.png', 'pictures_reel.0005.png', 'frames.csv']);
  const rows = Papa.parse<string[]>(new TextDecoder().decode(drawings.get('frames.csv')).trim()).data;
  expect(rows.slice(0, 3)).toEqual([
    ['file', 'shot', 'level', 'drawing', 'frames', 'count'],
    ['pictures_reel.0001.png', '010', '', '', '1–2, 7–8', '4'],
    ['pictures_reel.0003.png', '010', '', '', '3–4, 9–10', '4'],
  ]);
  await page.getByRole('radio', { name: 'Frame', exact: true }).click();
  await page.getByRole('radio', { name: 'Each by itself' }).click();
  await expect(page.getByText('24 files, no clashes')).toBeVisible();
  const levels = [...(await handOver(page)).keys()];
  expect(levels).toHaveLength(24);
  expect(new Set(levels.map((name) => name.split('/').slice(0, 2).join('/'))).size).toBe(2);
  expect(levels[0]).toMatch(/^010\/[^/]+\/010_[^/]+\.0001\.png$/);
  // Without the level two files would be one: refused before anything is written, naming them.
  await page.getByLabel('Laid out').selectOption({ label: 'all in one place' });
  await expect(page.getByText(/Two files would be called/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Hand over', exact: true })).toBeDisabled();
  await page.getByLabel('Laid out').selectOption({ label: 'a folder a level' });
  await page.getByLabel('Start number').fill('101');
  await page.keyboard.press('Enter');
  await page.getByLabel('Step').fill('10');
  await page.keyboard.press('Enter');
  expect([...(await handOver(page)).keys()].slice(0, 2).map((name) => name.split('.').at(-2))).toEqual(['0101', '0111']);
});
