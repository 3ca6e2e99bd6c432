import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { expect, goToFrame, openShot, openStage, strokeNow, test, untilKept, untilLaid } from './fixtures';
import { drawnBox, pixelAt, pressPaper, takeColour } from './paper';
import { emptyProject } from './projects';

const FILM = { title: 'Pen', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 12 };

type PenState = { readonly buttons: number; readonly pressure: number; readonly altitudeAngle?: number };

/** Draws with a pen across the paper at a height of it, as the browser tells of a pen: no input of the test runner has an eraser end. */
async function penAcross(page: Page, height: number, { buttons, pressure, altitudeAngle = Math.PI / 2 }: PenState): Promise<void> {
  await untilLaid(page);
  await page.getByTestId('paper').evaluate(
    (paper, { height, buttons, pressure, altitudeAngle }) => {
      const box = paper.getBoundingClientRect();
      const send = (type: string, part: number, held: number, button: number) =>
        paper.dispatchEvent(
          new PointerEvent(type, {
            pointerId: 7,
            pointerType: 'pen',
            bubbles: true,
            cancelable: true,
            clientX: box.left + part * box.width,
            clientY: box.top + height * box.height,
            button,
            buttons: held,
            pressure: held === 0 ? 0 : pressure,
            altitudeAngle,
          }),
        );
      const button = { 1: 0, 2: 2, 32: 5 }[buttons] ?? 0;
      send('pointerdown', 0.2, buttons, button);
      for (let part = 0.25; part <= 0.8; part += 0.05) send('pointermove', part, buttons, -1);
      send('pointerup', 0.8, 0, button);
    },
    { height, buttons, pressure, altitudeAngle },
  );
  await untilKept(page);
}

const thickness = async (page: Page) => {
  const [, top = 0, , bottom = 0] = await drawnBox(page);
  return bottom - top;
};

test('a pen laid flat draws wider, its other end rubs out, its barrel button moves the paper', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await untilLaid(page);
  for (let press = 0; press < 5; press++) await page.keyboard.press('+');

  await penAcross(page, 0.5, { buttons: 1, pressure: 0.5 });
  const upright = await thickness(page);
  await page.keyboard.press('Control+z');
  await expect.poll(() => thickness(page)).toBeLessThanOrEqual(0);
  await penAcross(page, 0.5, { buttons: 1, pressure: 0.5, altitudeAngle: 0.2 });
  expect(await thickness(page)).toBeGreaterThan(upright * 1.1);

  expect((await pixelAt(page, 0.5, 0.5))[3]).toBe(255);
  await expect(page.getByRole('button', { name: 'Brush', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await penAcross(page, 0.5, { buttons: 32, pressure: 0.9 });
  expect((await pixelAt(page, 0.5, 0.5))[3]).toBe(0);
  await expect(page.getByRole('button', { name: 'Brush', exact: true })).toHaveAttribute('aria-pressed', 'true');

  const before = await page.getByTestId('paper').locator('canvas').nth(1).boundingBox();
  await penAcross(page, 0.2, { buttons: 2, pressure: 0.5 });
  expect(await pixelAt(page, 0.5, 0.2)).toEqual([0, 0, 0, 0]);
  const moved = await page.getByTestId('paper').locator('canvas').nth(1).boundingBox();
  expect((moved?.x ?? 0) - (before?.x ?? 0)).toBeGreaterThan(100);
});

test('a recorded pen draws the sock that is left to draw, the way a pen does, and one undo takes back a stroke of it', async ({
  page,
  app,
}) => {
  await openStage(page, app.url, 'washday', 'draw');
  await openShot(page, '020');
  await goToFrame(page, 32);
  await expect(page.getByRole('application', { name: 'Paper: Sock, drawing 13' })).toBeVisible();
  await untilLaid(page);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('watch it drawn');
  await page.keyboard.press('Enter');
  await expect(page.getByText('A recorded pen is drawing')).toBeVisible();
  // Its outline is there first, then its stripes, toe and heel: five strokes, of which the last can be taken back.
  await expect(page.getByText('A recorded pen is drawing')).toBeHidden({ timeout: 30_000 });
  await untilKept(page);
  const [left = 0, top = 0, right = 0, bottom = 0] = await drawnBox(page);
  expect(right - left).toBeGreaterThan(60);
  expect(bottom - top).toBeGreaterThan(60);
  await page.keyboard.press('Control+z');
  for (let stroke = 0; stroke < 4; stroke++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await drawnBox(page))[2]).toBe(0);
  await untilKept(page);
});

type PageBox = { readonly x: number; readonly y: number; readonly width: number; readonly height: number };

/** What is seen within a box of the page: red, green and blue of each pixel of the screen. */
async function seenIn(page: Page, clip: PageBox): Promise<Buffer> {
  return sharp(await page.screenshot({ clip }))
    .removeAlpha()
    .raw()
    .toBuffer();
}

const STEPS_TOLD_APART = 12;

/** How many pixels of two pictures of the screen can be told apart. */
function apart(one: Buffer, other: Buffer): number {
  let pixels = 0;
  for (let at = 0; at < one.length; at += 3)
    if ([0, 1, 2].some((part) => Math.abs((one[at + part] ?? 0) - (other[at + part] ?? 0)) > STEPS_TOLD_APART)) pixels++;
  return pixels;
}

test('a line is seen under the pen as it stays, also on a level that shines through and is blended, and so is what is rubbed out', async ({
  page,
  app,
}) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await page.keyboard.press('f');
  await takeColour(page, '#c08040');
  await pressPaper(page, 0.5, 0.5);
  await untilKept(page);
  await page.keyboard.press('Shift+L');
  await page.getByLabel('Blend').selectOption('multiply');
  const opacity = page.getByRole('slider', { name: /^Opacity of/ });
  await opacity.focus();
  await page.keyboard.press('PageDown');
  await expect(opacity).toHaveAttribute('aria-valuenow', '50');
  await page.keyboard.press('d');
  await takeColour(page, '#40c0e0');
  for (let press = 0; press < 8; press++) await page.keyboard.press('+');
  await untilLaid(page);
  const box = await page.getByTestId('paper').boundingBox();
  if (!box) throw new Error('There is no paper.');
  // First a line alone, then one across it, then a rubbed one across both: what lies there already counts once. Then the same nearer.
  for (const [key, across, isNearer] of [
    ['d', 0.3, false],
    ['d', 0.7, false],
    ['r', 0.5, false],
    ['d', 0.4, true],
    ['r', 0.4, false],
  ] as const) {
    await page.keyboard.press(key);
    if (isNearer) await page.mouse.wheel(0, -300);
    const before = await seenIn(page, box);
    await page.mouse.move(box.x + 0.2 * box.width, box.y + across * box.height);
    await page.mouse.down();
    await page.mouse.move(box.x + 0.8 * box.width, box.y + (1 - across) * box.height, { steps: 20 });
    // Where nothing moves, what is expected of the pen next is the place where it is.
    await page.mouse.move(box.x + 0.8 * box.width, box.y + (1 - across) * box.height);
    await expect.poll(async () => apart(before, await seenIn(page, box))).toBeGreaterThan(500);
    const under = await seenIn(page, box);
    await page.mouse.up();
    await untilKept(page);
    // Its end is closed, and soft edges are rounded once more; a line that moved by half a pixel would differ all along it.
    expect(apart(under, await seenIn(page, box))).toBeLessThan(apart(before, under) / 10);
  }
});

test('what lies on the paper after many strokes is what was kept, to the last pixel', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await untilLaid(page);
  // The paper is painted with the picture's own pixels here.
  const canvas = page.getByTestId('paper').locator('canvas').nth(2);
  const pixels = () =>
    canvas.evaluate(async (canvas: HTMLCanvasElement) => {
      const data = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data ?? new Uint8ClampedArray();
      const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', data));
      return {
        width: canvas.width,
        inked: data.reduce((sum, value, at) => sum + (at % 4 === 3 && value > 0 ? 1 : 0), 0),
        digest: [...digest].join(),
      };
    });
  // A hard line, a soft and wide one across it and beyond the paper, a rubbed one across both, and all without a rest.
  await strokeNow(page, [
    [0.1, 0.2],
    [0.9, 0.8],
  ]);
  await page.getByRole('button', { name: 'More about this tool' }).click();
  await page.getByRole('slider', { name: 'Hardness' }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Escape');
  for (let press = 0; press < 12; press++) await page.keyboard.press('+');
  await strokeNow(page, [
    [0.1, 0.9],
    [0.99, 0.3],
    [0.8, 0.1],
  ]);
  await page.keyboard.press('r');
  await strokeNow(page, [
    [0.5, 0.1],
    [0.5, 0.95],
  ]);
  await page.keyboard.press('d');
  await strokeNow(page, [[0.3, 0.3]]);
  await untilKept(page);
  const drawn = await pixels();
  expect(drawn.width).toBe(FILM.size.width);
  expect(drawn.inked).toBeGreaterThan(4000);
  await page.reload();
  await untilLaid(page);
  expect(await pixels()).toEqual(drawn);
  // On a picture that was kept before, too, and on one that an undo brought back.
  await strokeNow(page, [
    [0.2, 0.1],
    [0.8, 0.2],
  ]);
  await untilKept(page);
  await strokeNow(page, [
    [0.2, 0.3],
    [0.8, 0.4],
  ]);
  await untilKept(page);
  const before = (await pixels()).digest;
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await pixels()).digest === before).toBe(false);
  await untilLaid(page);
  await strokeNow(page, [
    [0.2, 0.6],
    [0.8, 0.5],
  ]);
  await untilKept(page);
  const onUndone = await pixels();
  await page.reload();
  await untilLaid(page);
  expect(await pixels()).toEqual(onUndone);
});
