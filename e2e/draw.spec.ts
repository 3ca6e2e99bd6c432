import type { Page } from '@playwright/test';
import { expect, goToFrame, openStage, stroke, test, untilKept } from './fixtures';
import { emptyProject, makeProject, projectOnServer } from './projects';

const FILM = { title: 'Desk', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 12 };

/** How many pixels of the drawing under the pen have any ink. */
const inkedPixels = (page: Page) =>
  page
    .getByTestId('paper')
    .locator('canvas')
    .nth(2)
    .evaluate((canvas) => {
      if (!(canvas instanceof HTMLCanvasElement)) return -1;
      const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
      let inked = 0;
      for (let index = 3; index < data.length; index += 4) if ((data[index] ?? 0) > 0) inked++;
      return inked;
    });

/** How many pixels the onion skin shows. */
const onionPixels = (page: Page) =>
  page
    .getByTestId('paper')
    .locator('canvas')
    .nth(1)
    .evaluate((canvas) => {
      if (!(canvas instanceof HTMLCanvasElement)) return -1;
      // What stays as it is can't be read itself, only drawn elsewhere.
      const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d');
      copy?.drawImage(canvas, 0, 0);
      const { data } = copy?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
      let shown = 0;
      for (let index = 3; index < data.length; index += 4) if ((data[index] ?? 0) > 0) shown++;
      return shown;
    });

test('strokes, rubbing out, undo and redo, all kept', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, [
    [0.2, 0.5],
    [0.8, 0.5],
  ]);
  await untilKept(page);
  const line = await inkedPixels(page);
  expect(line).toBeGreaterThan(500);

  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Eraser' })).toHaveAttribute('aria-pressed', 'true');
  await stroke(page, [
    [0.5, 0.3],
    [0.5, 0.7],
  ]);
  await untilKept(page);
  const rubbed = await inkedPixels(page);
  expect(rubbed).toBeLessThan(line);
  expect(rubbed).toBeGreaterThan(line / 2);

  await page.keyboard.press('Control+z');
  await expect.poll(() => inkedPixels(page)).toBe(line);
  await page.keyboard.press('Control+z');
  await expect.poll(() => inkedPixels(page)).toBe(0);
  await expect(page.getByText('not drawn yet')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: 'Level 1, blank' })).toBeVisible();
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => inkedPixels(page)).toBe(rubbed);
  await untilKept(page);
  await page.reload();
  await expect.poll(() => inkedPixels(page)).toBe(rubbed);
});

test('a pen’s pressure makes the line thicker', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const box = await page.getByTestId('paper').boundingBox();
  if (!box) throw new Error('There is no paper.');
  const devtools = await page.context().newCDPSession(page);
  const pen = async (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', x: number, y: number, force: number) =>
    devtools.send('Input.dispatchMouseEvent', {
      type,
      x: box.x + x * box.width,
      y: box.y + y * box.height,
      button: 'left',
      buttons: type === 'mouseReleased' ? 0 : 1,
      clickCount: 1,
      pointerType: 'pen',
      force,
    });
  const penStroke = async (force: number) => {
    await pen('mousePressed', 0.2, 0.5, force);
    for (let part = 0.25; part <= 0.8; part += 0.05) await pen('mouseMoved', part, 0.5, force);
    await pen('mouseReleased', 0.8, 0.5, 0);
    await untilKept(page);
  };
  await penStroke(0.15);
  const light = await inkedPixels(page);
  await page.keyboard.press('Control+z');
  await expect.poll(() => inkedPixels(page)).toBe(0);
  await penStroke(0.95);
  expect(await inkedPixels(page)).toBeGreaterThan(light * 1.3);
});

test('a copy is independent of what it was copied from', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, [
    [0.2, 0.3],
    [0.8, 0.3],
  ]);
  await untilKept(page);
  const first = await inkedPixels(page);
  await page.keyboard.press('c');
  await expect(page.getByRole('heading', { name: 'Level 1 · 2' })).toBeVisible();
  await expect.poll(() => inkedPixels(page)).toBe(first);
  await stroke(page, [
    [0.2, 0.7],
    [0.8, 0.7],
  ]);
  await untilKept(page);
  expect(await inkedPixels(page)).toBeGreaterThan(first);
  await goToFrame(page, 1);
  await expect.poll(() => inkedPixels(page)).toBe(first);
  const project = await projectOnServer(app.url, projectId);
  expect(new Set(project.shots[0]?.levels[0]?.drawings.map((drawing) => drawing.picture)).size).toBe(2);
});

test('the onion skin shows neighbours by drawing, says why when it shows none, and is off while playing', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await goToFrame(page, 5);
  await expect.poll(() => onionPixels(page)).toBeGreaterThan(1000);
  const three = await onionPixels(page);
  await page.getByRole('button', { name: 'One fewer before' }).click();
  await expect.poll(() => onionPixels(page)).toBeLessThan(three);
  await page.getByRole('button', { name: 'One fewer before' }).click();
  await page.getByRole('button', { name: 'One fewer after' }).click();
  await expect(page.getByText('Nothing shows: it reaches over no drawing.')).toBeVisible();
  await expect.poll(() => onionPixels(page)).toBe(0);
  await page.getByRole('button', { name: 'One more before' }).click();
  await expect.poll(() => onionPixels(page)).toBeGreaterThan(500);
  await page.keyboard.press('o');
  await expect(page.getByText('Nothing shows: switched off.')).toBeVisible();
  await page.keyboard.press('o');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('paper')).toHaveCount(0);
  await page.keyboard.press('Space');
  await expect(page.getByTestId('paper')).toBeVisible();
});

test('levels: a new one, a name, hidden ones are told when drawn on, a still one shows throughout', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const levels = page.getByRole('region', { name: 'Levels' });
  await levels.getByRole('button', { name: 'New level' }).click();
  await page.getByRole('menuitem', { name: /^Still/ }).click();
  await levels.getByLabel('Name', { exact: true }).fill('Yard');
  await page.keyboard.press('Enter');
  await expect(levels.getByRole('button', { name: /^Yard still, empty/ })).toBeVisible();
  await stroke(page, [
    [0.1, 0.9],
    [0.9, 0.9],
  ]);
  await expect(levels.getByRole('button', { name: /^Yard still ·/ })).toBeVisible();
  await untilKept(page);
  await page.keyboard.press('End');
  await expect(page.getByRole('heading', { name: 'Yard 1' })).toBeVisible();
  await levels.getByRole('button', { name: 'Show Yard', exact: true }).click();
  await stroke(page, [
    [0.1, 0.1],
    [0.9, 0.1],
  ]);
  await expect(page.getByText('Yard is hidden: show it to draw on it.')).toBeVisible();
});
