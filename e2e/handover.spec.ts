import { readFile } from 'node:fs/promises';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import sharp from 'sharp';
import { expect, openShot, openStage, test } from './fixtures';
import { probe } from './probe';
import { makeProject } from './projects';

const FILM = { title: 'Out', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

test('a range leaves by its numbers, and a shot alone', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'hand-over');
  await openShot(page, '020');
  await page.getByRole('radio', { name: 'Shot 020 alone' }).click();
  await expect(page.getByText('96 frames at 24 = 4 s exactly')).toBeVisible();
  await page.getByLabel('From frame').fill('25');
  await page.getByLabel('To frame').fill('48');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 24 frames' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('washday_020_25-48_24.mp4');
  expect(probe(await file.path()).frames).toBe(24);
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  await expect(page.getByRole('article').first()).toContainText('frames 25–48');
  await page.getByLabel('To frame').fill('12');
  await expect(page.getByText('Frames 25 to 12 run backwards')).toBeVisible();
  await page.getByLabel('To frame').fill('97');
  await expect(page.getByText('Frames 25 to 97 can’t be handed over: there are frames 1 to 96.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Hand over', exact: true })).toBeDisabled();
});

test('one picture under two numbers is counted as a repeat, in a film and in pictures', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await page.keyboard.press('c');
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  await page.getByRole('link', { name: /^Hand over/ }).click();
  for (const kind of ['MP4, H.264', 'In one ZIP']) {
    await page.getByRole('radio', { name: kind }).click();
    await page.getByRole('button', { name: 'Hand over 24 frames' }).click();
    const receipt = page.getByRole('article').first();
    await expect(receipt).toContainText(kind.startsWith('MP4') ? '.mp4' : '.zip');
    await expect(receipt.getByTestId('verdict')).toHaveText('disagrees');
    await expect(receipt).toContainText('The picture before is repeated, with no hold on the sheet, on frame 3.');
  }
});

test('without background, pictures leave on transparency, exactly as drawn', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 4 }, { drawings: 2, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Without' }).click();
  await page.getByRole('radio', { name: 'In one ZIP' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 4 frames' }).click();
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  const reader = new ZipReader(new BlobReader(new Blob([await readFile(await (await download).path())])));
  const [entry] = await reader.getEntries();
  if (!entry || entry.directory) throw new Error('The ZIP is empty.');
  expect(entry.filename).toBe('out_reel.0001.png');
  const { data, info } = await sharp(await entry.getData(new Uint8ArrayWriter()))
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect(info).toMatchObject({ width: 320, height: 180, channels: 4 });
  const alphas = new Set(data.filter((_, index) => index % 4 === 3));
  expect(alphas.has(0)).toBe(true);
  expect(alphas.has(255)).toBe(true);
});

test('pictures go into a folder, and into none that holds one of their names', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 6 }, { drawings: 3, hold: 2 });
  await page.addInitScript(() => {
    window.showDirectoryPicker = async () => (await navigator.storage.getDirectory()).getDirectoryHandle('chosen', { create: true });
  });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Into a folder' }).click();
  await page.getByRole('button', { name: 'Hand over 6 frames' }).click();
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  const names = await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('chosen');
    const found: string[] = [];
    for await (const name of folder.keys()) found.push(name);
    return found.sort();
  });
  expect(names).toEqual([1, 2, 3, 4, 5, 6].map((number) => `out_reel.000${number}.png`));
  // Many folders take capitals and small letters as one: a name that differs in them alone is the same.
  await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('chosen');
    for await (const name of folder.keys()) await folder.removeEntry(name);
    await folder.getFileHandle('OUT_Reel.0004.PNG', { create: true });
  });
  await page.getByRole('button', { name: 'Hand over 6 frames' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'already' })).toContainText('Nothing was written');
});

test('a handover that is stopped leaves nothing behind', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, size: { width: 1280, height: 720 }, frames: 600 }, { drawings: 30, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('button', { name: 'Hand over 600 frames' }).click();
  await expect(page.getByRole('progressbar', { name: 'Handover' })).toBeVisible();
  await expect(page.getByText(/pictures? made/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).last().click();
  await expect(page.getByText('Stopped. Nothing was left behind.')).toBeVisible();
  const left = await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('handovers');
    let files = 0;
    for await (const _name of folder.keys()) files++;
    return files;
  });
  expect(left).toBe(0);
  await expect(page.getByText('None yet. Every handover is opened again')).toBeVisible();
});

test('an odd size rules films out and says so, before anything is written', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, size: { width: 321, height: 180 }, frames: 4 }, { drawings: 2, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await expect(page.getByText('Films need an even width and height, and this project is 321 × 180')).toBeVisible();
  await page.getByRole('radio', { name: 'In one ZIP' }).click();
  await page.getByRole('button', { name: 'Hand over 4 frames' }).click();
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
});

test('a changed drawing makes the last handover disagree on the path', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 8 }, { drawings: 4, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('button', { name: 'Hand over 8 frames' }).click();
  await expect(page.getByRole('img', { name: 'Assemble to Hand over: counts agree' })).toBeVisible();
  await page.getByRole('link', { name: /^Plan/ }).click();
  await page.keyboard.press('1');
  await page.getByRole('button', { name: 'Assemble to Hand over: counts disagree. Show why' }).click();
  await expect(page.getByText(/changed since the last handover, out_reel_24.mp4/)).toBeVisible();
});
