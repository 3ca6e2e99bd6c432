import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import sharp from 'sharp';
import { LAY_MODES } from '../src/core/document/finish';
import { layOver } from '../src/core/finish/layOver';
import { expect, openStage, test, untilKept } from './fixtures';
import { makeProject, projectOnServer } from './projects';

const FILM = { title: 'Finish', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 4 };

/** The pixels of the picture that is shown, RGBA. */
const shownPixels = (page: Page): Promise<number[]> =>
  page
    .getByRole('region', { name: 'Picture' })
    .locator('canvas')
    .evaluate((canvas: HTMLCanvasElement) => [...(canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? [])]);

/** The pictures that leave, RGBA each. */
async function leaving(page: Page): Promise<Buffer[]> {
  await page.getByRole('link', { name: /^Hand over/ }).click();
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Hand over \d+ frames?$/ }).click();
  const file = await readFile(await (await download).path());
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  const entries = await new ZipReader(new BlobReader(new Blob([file]))).getEntries();
  const pictures = entries.filter((entry) => !entry.directory && entry.filename.endsWith('.png'));
  return Promise.all(
    pictures.map(async (entry) => {
      if (entry.directory) throw new Error('A picture is no folder.');
      return sharp(await entry.getData(new Uint8ArrayWriter()))
        .ensureAlpha()
        .raw()
        .toBuffer();
    }),
  );
}

const apart = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  let most = 0;
  for (let at = 0; at < a.length; at++) most = Math.max(most, Math.abs((a[at] as number) - (b[at] as number)));
  return most;
};

test('what is seen with the finish is what leaves; each switch does what it says; a held key shows it without', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 2, hold: 2 });
  await openStage(page, app.url, projectId, 'assemble');
  await expect.poll(async () => (await shownPixels(page))[3]).toBe(255);
  const plain = await shownPixels(page);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('button', { name: 'Lamplight' }).click();
  await page.getByRole('button', { name: 'Colours in range' }).click();
  await page.getByLabel('Blurred by, px').fill('6');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('reel-says')).toContainText('laid over itself, blurred 6 px, screened, 35 %');
  await expect.poll(async () => apart(await shownPixels(page), plain)).toBeGreaterThan(15);
  await expect
    .poll(async () => (await shownPixels(page)).reduce((most, value, at) => (at % 4 === 3 ? most : Math.max(most, value)), 0))
    .toBe(235);
  await page.keyboard.press('Escape');
  const finished = await shownPixels(page);
  await page.keyboard.down('a');
  await expect(page.getByText('without the finish', { exact: true })).toBeVisible();
  await expect.poll(async () => apart(await shownPixels(page), plain)).toBe(0);
  await page.keyboard.up('a');
  await expect.poll(async () => apart(await shownPixels(page), finished)).toBe(0);
  const [first] = await leaving(page);
  expect(apart(first ?? [], finished)).toBe(0);
  await expect(page.getByRole('article').first()).toContainText(
    'laid over itself, blurred 6 px, screened, 35 %; colours held within 16–235',
  );

  // Off in what is handed over: it leaves as drawn, while it is still seen here.
  await page.getByRole('link', { name: /^Assemble/ }).click();
  await page.getByRole('tab', { name: 'Finish' }).click();
  for (const box of await page.getByRole('checkbox', { name: 'handed over' }).all()) await box.uncheck();
  await expect(page.getByText('What is seen here is not what is handed over')).toBeVisible();
  expect(apart(await shownPixels(page), finished)).toBe(0);
  const [bare] = await leaving(page);
  expect(apart(bare ?? [], plain)).toBe(0);

  // Off for the item: nothing lies over it.
  await page.getByRole('link', { name: /^Assemble/ }).click();
  // The stage hears its keys once it works on the reel.
  await expect(page.getByTestId('shot-now')).toBeVisible();
  await page.keyboard.press('Alt+Shift+e');
  await expect(page.getByTestId('reel-says')).toContainText('No finish over 010');
  await expect.poll(async () => apart(await shownPixels(page), plain)).toBe(0);
  await untilKept(page);
  const { reel, finish } = await projectOnServer(app.url, projectId);
  expect(reel.items.map(({ finished: isOn }) => isOn)).toEqual([false]);
  expect(finish.map(({ kind, inPreview, inHandover }) => [kind, inPreview, inHandover])).toEqual([
    ['layOver', true, false],
    ['holdColours', true, false],
  ]);
});

test('laying over is what this browser’s own compositing makes of half-transparent pictures', async ({ page, app }) => {
  await page.goto(app.url);
  const colours = [
    [250, 30, 90, 255],
    [10, 200, 120, 190],
    [128, 128, 10, 128],
    [0, 0, 0, 255],
    [255, 255, 255, 77],
  ];
  const pairs = colours.flatMap((below) => colours.map((above) => [below, above] as const));
  const theirs = await page.evaluate(
    ({ all, modes }) =>
      modes.map((mode) => {
        const context = new OffscreenCanvas(all.length, 1).getContext('2d', { willReadFrequently: true });
        const over = new OffscreenCanvas(all.length, 1).getContext('2d', { willReadFrequently: true });
        if (!context || !over) throw new Error('This browser gives no canvas.');
        const put = (on: OffscreenCanvasRenderingContext2D, pixels: readonly (readonly number[])[]) =>
          on.putImageData(new ImageData(new Uint8ClampedArray(pixels.flat()), all.length, 1), 0, 0);
        put(
          context,
          all.map(([below]) => below),
        );
        put(
          over,
          all.map(([, above]) => above),
        );
        context.globalCompositeOperation = (
          mode === 'plus-lighter' ? 'lighter' : mode === 'normal' ? 'source-over' : mode
        ) as GlobalCompositeOperation;
        context.drawImage(over.canvas, 0, 0);
        return [...context.getImageData(0, 0, all.length, 1).data];
      }),
    { all: pairs, modes: LAY_MODES },
  );
  const premultiplied = (pixels: readonly number[]) =>
    Uint8ClampedArray.from(pixels, (value, at) =>
      at % 4 === 3 ? value : Math.round((value * (pixels[at - (at % 4) + 3] as number)) / 255),
    );
  for (const [index, mode] of LAY_MODES.entries()) {
    const ours = premultiplied(pairs.flatMap(([below]) => below));
    layOver(ours, premultiplied(pairs.flatMap(([, above]) => above)), mode, 1, false);
    expect([mode, apart(ours, premultiplied(theirs[index] ?? [])) <= 3]).toEqual([mode, true]);
  }
});
