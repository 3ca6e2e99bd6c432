import { rm } from 'node:fs/promises';
import { test as base, expect, type Page } from '@playwright/test';
import { type Running, startServer } from './server';
import { copiedDataFolder } from './templates';

export { expect };

/** Tests against one running application for all of them, with the demo made in it. */
export const test = base.extend<{ noPageErrors: undefined }, { app: Running }>({
  app: [
    // biome-ignore lint/correctness/noEmptyPattern: the test runner reads the fixture's needs from the pattern
    async ({}, use) => {
      const folder = await copiedDataFolder('demo');
      const app = await startServer(folder);
      await use(app);
      await app.kill('SIGTERM');
      await rm(folder, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  noPageErrors: [
    async ({ page }, use) => {
      const errors: string[] = [];
      page.on('pageerror', (error) => errors.push(error.message));
      // What a page may load and run is told by its policy, which nothing of its own offends.
      page.on('console', (message) => /Content[- ]Security[- ]Policy/i.test(message.text()) && errors.push(message.text()));
      // Choosers of files are taken over a moment after somebody listens for them: listened for from the start, none is missed.
      page.on('filechooser', () => undefined);
      await use(undefined);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});

/** Opens a stage of a project and waits until it is there. */
export async function openStage(page: Page, url: string, projectId: string, stage: string): Promise<void> {
  await page.goto(`${url}/projects/${projectId}/${stage}`);
  await expect(page.getByRole('navigation', { name: 'Stages' })).toBeVisible();
}

/** Opens a shot by its code through the menu. */
export async function openShot(page: Page, code: string): Promise<void> {
  const banner = page.getByRole('banner');
  await banner.getByRole('button', { name: /^Shot \d/ }).click();
  await page
    .getByRole('listbox', { name: 'Shots' })
    .getByRole('option', { name: new RegExp(`^${code}`) })
    .click();
  await expect(banner.getByRole('button', { name: new RegExp(`^Shot ${code}`) })).toBeVisible();
}

/** Waits until everything is acknowledged by the database. */
export const untilKept = (page: Page) => expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept');

/** Goes to the frame of a number by the keys. */
export async function goToFrame(page: Page, number: number): Promise<void> {
  await page.keyboard.press('Home');
  for (let frame = 1; frame < number; frame++) await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('frame-now')).toHaveText(String(number));
}

/** Waits until the current drawing lies on the paper whole, so that it can be drawn on. */
export const untilLaid = (page: Page) => expect(page.getByTestId('paper')).toHaveAttribute('data-laid', 'ready');

/** Draws a stroke on the paper; places are parts of its width and height. */
export async function stroke(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
  await untilLaid(page);
  await strokeNow(page, points);
}

/** Draws a stroke on the paper whether or not its picture is there yet. */
export async function strokeNow(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
  const box = await page.getByTestId('paper').boundingBox();
  if (!box) throw new Error('There is no paper.');
  const at = ([x, y]: readonly [number, number]) => [box.x + x * box.width, box.y + y * box.height] as const;
  const [first, ...rest] = points;
  if (!first) return;
  await page.mouse.move(...at(first));
  await page.mouse.down();
  for (const point of rest) await page.mouse.move(...at(point), { steps: 4 });
  await page.mouse.up();
}

/** The sheet's column of a level, as the notation has it, read from its cells. */
export async function column(page: Page, level: string): Promise<string> {
  await page.getByRole('grid').getByRole('gridcell').first().waitFor();
  const labels = await page
    .getByRole('grid')
    .getByRole('gridcell', { name: new RegExp(`^${level}, `) })
    .evaluateAll((cells) => cells.map((cell) => `${cell.getAttribute('data-drawing') ?? '.'}*${cell.getAttribute('aria-rowspan')}`));
  return labels.join(' ');
}
