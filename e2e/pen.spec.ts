import type { Page } from '@playwright/test';
import { expect, openStage, test, untilKept, untilLaid } from './fixtures';
import { drawnBox, pixelAt } from './paper';
import { emptyProject } from './projects';

const FILM = { title: 'Pen', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 12 };

type PenState = { readonly buttons: number; readonly pressure: number; readonly altitudeAngle?: number };

/** Draws with a pen across the paper at a height of it, as the browser tells of a pen: no input of the test runner has an eraser end. */
async function penAcross(page: Page, height: number, { buttons, pressure, altitudeAngle = Math.PI / 2 }: PenState): Promise<void> {
  await untilLaid(page);
  await page.getByTestId('paper').evaluate(
    (paper, { height, buttons, pressure, altitudeAngle }) => {
      // A pen that the browser never saw can't be captured.
      Element.prototype.setPointerCapture = () => undefined;
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
