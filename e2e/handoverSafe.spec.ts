import { readFile } from 'node:fs/promises';
import { expect, openStage, test } from './fixtures';
import { makeProject } from './projects';
import { freePort, startServer } from './server';
import { copiedDataFolder } from './templates';

const FILM = { title: 'Once', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 96 };

test('pressed twice a handover runs once, and asks before the page is left', async ({ page, app }) => {
  const id = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, id, 'hand-over');
  let downloads = 0;
  page.on('download', () => downloads++);
  const button = page.getByRole('button', { name: 'Hand over 96 frames' });
  await button.evaluate((element: HTMLButtonElement) => {
    element.click();
    element.click();
    element.click();
  });
  let asked = '';
  page.on('dialog', async (dialog) => {
    asked = dialog.type();
    await dialog.dismiss();
  });
  await page.mouse.click(640, 400);
  await page.evaluate(() => window.location.reload());
  await expect(page.getByTestId('verdict')).toHaveText('agrees', { timeout: 60_000 });
  expect(asked).toBe('beforeunload');
  await expect(page.getByRole('article')).toHaveCount(1);
  expect(downloads).toBe(1);
});

test('a film whose server is gone at the end is saved, its receipt shown, and saved on the server when it is back', async ({ page }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const id = await makeProject(first.url, FILM, { drawings: 4, hold: 2 });
  await openStage(page, first.url, id, 'hand-over');
  // The last thing asked of the server is the receipt.
  const asked = page.waitForRequest('**/receipts');
  await page.route('**/receipts', async (route) => {
    await first.kill('SIGKILL');
    // The server is gone by now; however the request ended, it got no answer.
    await route.abort().catch(() => undefined);
  });
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 96 frames' }).click();
  const file = await (await download).path();
  expect((await readFile(file)).byteLength).toBeGreaterThan(10_000);
  await asked;
  await expect(page.getByTestId('verdict')).toHaveText('agrees', { timeout: 60_000 });
  await page.unroute('**/receipts');
  const second = await startServer(folder, port);
  await expect
    .poll(async () => ((await (await fetch(`${second.url}/api/projects/${id}`)).json()) as { receipts: unknown[] }).receipts.length, {
      timeout: 60_000,
    })
    .toBe(1);
  await second.kill('SIGTERM');
});
