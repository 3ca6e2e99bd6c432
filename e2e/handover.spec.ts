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
  for (const kind of ['MP4', 'PNG']) {
    await page.getByRole('radio', { name: kind, exact: true }).click();
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
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
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
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
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
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('button', { name: 'Hand over 4 frames' }).click();
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
});

test('a changed drawing makes the last handover disagree on the path', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 8 }, { drawings: 4, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('button', { name: 'Hand over 8 frames' }).click();
  await expect(page.getByRole('img', { name: 'Assemble to Hand over: counts agree' })).toBeVisible();
  await page.getByRole('link', { name: /^Plan/ }).click();
  await expect(page.getByRole('grid')).toBeVisible();
  await page.keyboard.press('1');
  await page.getByRole('button', { name: 'Assemble to Hand over: counts disagree. Show why' }).click();
  await expect(page.getByText(/changed since the last handover, out_reel_24.mp4/)).toBeVisible();
});

test('what was handed over last is handed over again with one press, and its settings can be taken', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('radio', { name: '16 bit' }).click();
  await page.getByLabel('From frame').fill('5');
  await page.getByLabel('To frame').fill('8');
  await page.getByRole('button', { name: 'Hand over 4 frames' }).click();
  await expect(page.getByTestId('verdict')).toHaveText(['agrees']);
  await page.reload();
  await expect(page.getByRole('radio', { name: 'MP4', exact: true })).toBeChecked();
  await page.getByRole('button', { name: 'Take its settings' }).click();
  await expect(page.getByRole('radio', { name: '16 bit' })).toBeChecked();
  await expect(page.getByLabel('From frame')).toHaveValue('5');
  await page.reload();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'As last time' }).click();
  expect((await download).suggestedFilename()).toBe('out_reel_5-8.zip');
  await expect(page.getByTestId('verdict')).toHaveText(['agrees', 'agrees']);
});

test('the pictures above are those that leave, with the background or without it', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'hand-over');
  const picture = page.getByRole('region', { name: 'Frames handed over' }).locator('canvas').first();
  const WHITE = '255,255,255,255';
  /** High in the middle there is sky, and without it nothing but paper. */
  const sky = () =>
    picture.evaluate((canvas: HTMLCanvasElement) => {
      // What stays as it is can't be read itself, only drawn elsewhere.
      const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d');
      copy?.drawImage(canvas, 0, 0);
      return copy?.getImageData(Math.floor(canvas.width / 2), 2, 1, 1).data.join();
    });
  const painted = expect.poll(sky);
  await painted.toMatch(/,255$/);
  await painted.not.toBe(WHITE);
  await page.getByRole('radio', { name: 'Without' }).click();
  await expect.poll(sky).toBe(WHITE);
  await expect(page.getByText('The film as it plays')).toBeVisible();
  await page.getByRole('radio', { name: 'With background' }).click();
  await expect.poll(sky).not.toBe(WHITE);
});

test('a range is chosen by dragging over the pictures and by the ends beneath; every shot leaves by itself with one press', async ({
  page,
  app,
}) => {
  await openStage(page, app.url, 'washday', 'hand-over');
  const strip = page.getByRole('region', { name: 'Frames handed over' }).getByRole('list');
  const box = await strip.boundingBox();
  if (!box) throw new Error('There is no strip.');
  const at = (frame: number) => box.x + ((frame + 0.5) / 312) * box.width;
  await page.mouse.move(at(23), box.y + 20);
  await page.mouse.down();
  await page.mouse.move(at(60), box.y + 20, { steps: 5 });
  await page.mouse.move(at(47), box.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByLabel('From frame')).toHaveValue('24');
  await expect(page.getByLabel('To frame')).toHaveValue('48');
  await page.getByRole('slider', { name: 'Last frame that leaves' }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('button', { name: 'Hand over 24 frames' })).toBeVisible();
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('radio', { name: 'Drawing', exact: true }).click();
  const receipts = await page.getByRole('article').count();
  const saved: string[] = [];
  page.on('download', (download) => saved.push(download.suggestedFilename()));
  await page.getByRole('button', { name: 'Hand over each of the 3 shots' }).click();
  await expect.poll(() => saved, { timeout: 60_000 }).toEqual(['washday_010.zip', 'washday_020.zip', 'washday_030.zip']);
  await expect(page.getByRole('article')).toHaveCount(receipts + 3);
  for (const newest of [0, 1, 2]) await expect(page.getByTestId('verdict').nth(newest)).toHaveText('agrees');
});

test('chosen items of the reel, and every level of a shot, leave as films of their own', async ({ page, app }) => {
  test.setTimeout(120_000);
  await openStage(page, app.url, 'washday', 'hand-over');
  // By the keyboard: what folds open answers to Enter and Space itself.
  await page.getByText('Chosen items of the reel').focus();
  await page.keyboard.press('Enter');
  const items = page.getByRole('list', { name: 'Items of the reel' }).getByRole('checkbox');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await expect(items.nth(0)).toBeChecked();
  await items.nth(2).check();
  const ranges = await page.getByRole('list', { name: 'Items of the reel' }).getByRole('listitem').allTextContents();
  const rangeOf = (item: number) => /, (\d+)–(\d+)$/.exec(ranges[item] ?? '')?.slice(1) ?? [];
  const receipts = await page.getByRole('article').count();
  const saved = new Map<string, Promise<string>>();
  page.on('download', (download) => saved.set(download.suggestedFilename(), download.path()));
  await page.getByRole('button', { name: 'Hand over 2 items, each by itself' }).click();
  const names = [0, 2].map((item) => `washday_reel_${rangeOf(item).join('-')}_24.mp4`);
  await expect.poll(() => [...saved.keys()], { timeout: 60_000 }).toEqual(names);
  await expect(page.getByRole('article')).toHaveCount(receipts + 2);
  for (const [index, item] of [0, 2].entries()) {
    const [from = 0, to = 0] = rangeOf(item).map(Number);
    expect(probe(await (saved.get(names[index] ?? '') ?? '')).frames).toBe(to - from + 1);
  }

  await page.getByRole('radio', { name: /^Shot \d+ alone/ }).click();
  const levels = await page.getByLabel('Levels').getByRole('option').allTextContents();
  await page.getByLabel('To frame').fill('6');
  await page.getByRole('radio', { name: 'WebM', exact: true }).click();
  saved.clear();
  await page.getByRole('button', { name: `Hand over each of the ${levels.length - 1} levels` }).click();
  await expect.poll(() => saved.size, { timeout: 60_000 }).toBe(levels.length - 1);
  await expect(page.getByRole('article')).toHaveCount(receipts + 2 + levels.length - 1);
  for (let newest = 0; newest < levels.length + 1; newest++) await expect(page.getByTestId('verdict').nth(newest)).toHaveText('agrees');
  for (const file of saved.values()) expect(probe(await file).frames).toBe(6);
  // One alone is named in its file, and keeps its transparency.
  await page.getByLabel('Levels').selectOption({ index: 1 });
  await page.getByRole('radio', { name: 'Transparent', exact: true }).click();
  await page.getByRole('button', { name: 'Hand over 6 frames' }).click();
  await expect(page.getByRole('article')).toHaveCount(receipts + 2 + levels.length);
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
});

test('settings are saved under a name, with the project or for all, and go to another project as a file', async ({ page, app }) => {
  const [one, other] = [
    await makeProject(app.url, FILM, { drawings: 12, hold: 2 }),
    await makeProject(app.url, { ...FILM, title: 'Other' }, { drawings: 12, hold: 2 }),
  ];
  await openStage(page, app.url, one, 'hand-over');
  await page.getByRole('radio', { name: 'TIFF', exact: true }).click();
  await page.getByRole('radio', { name: 'Premultiplied' }).click();
  await page.getByText('Recipes', { exact: true }).click();
  const save = async (name: string, where: string) => {
    await page.getByLabel('Save these settings as').fill(name);
    await page.getByRole('button', { name: where }).click();
  };
  await save('Comp', 'With the project');
  await expect(page.getByText('Recipes, 1 saved')).toBeVisible();
  await page.getByRole('radio', { name: 'WebM', exact: true }).click();
  await save('Web', 'For all projects');
  await expect(page.getByText('Recipes, 2 saved')).toBeVisible();
  await page.reload();
  await page.getByText('Recipes, 2 saved').click();
  await page.getByLabel('Take one').selectOption({ label: 'Comp' });
  await expect(page.getByRole('radio', { name: 'Premultiplied' })).toBeChecked();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'As a file', exact: true }).click();
  const file = await (await download).path();
  expect((await download).suggestedFilename()).toBe('comp.recipe.json');

  await openStage(page, app.url, other, 'hand-over');
  await page.getByText('Recipes, 1 saved').click();
  await page.getByLabel('Take one').selectOption({ label: 'Web (all projects)' });
  await expect(page.getByRole('radio', { name: 'WebM', exact: true })).toBeChecked();
  await page.getByLabel('A recipe as a file').setInputFiles(file);
  await expect(page.getByRole('radio', { name: 'Premultiplied' })).toBeChecked();
  await expect(page.getByLabel('Save these settings as')).toHaveValue('Comp');
  await page
    .getByLabel('A recipe as a file')
    .setInputFiles({ name: 'a.json', mimeType: 'application/json', buffer: Buffer.from('{"version":1}') });
  await expect(page.getByText(/^The recipe/)).toBeVisible();
  await page.getByRole('button', { name: 'Take “Web” away' }).click();
  await expect(page.getByText('Recipes', { exact: true })).toBeVisible();
});
