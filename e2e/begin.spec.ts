import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { drop } from './drop';
import { column, expect, test, untilKept } from './fixtures';

test('pictures dropped on the shelf begin a project of their size and are brought in; a film of its size, rate and length', async ({
  page,
  app,
}) => {
  const pictures = await Promise.all(
    [1, 2, 3].map(async (number) => ({
      name: `kite_${String(number).padStart(3, '0')}.png`,
      type: 'image/png',
      bytes: await sharp({ create: { width: 800, height: 450, channels: 4, background: { r: 40 * number, g: 90, b: 60, alpha: 1 } } })
        .png()
        .toBuffer(),
    })),
  );
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  await drop(page, pictures);
  await expect(page.getByTestId('begun')).toContainText('3 pictures of 800 × 450');
  await expect(page.getByLabel('Title')).toHaveValue('Kite');
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page).toHaveURL(/\/plan(\?|$)/);
  const window = page.getByRole('dialog');
  await expect(window).toContainText('3 pictures');
  await window.getByRole('button', { name: /^Bring in/ }).click();
  await expect(window).toBeHidden();
  await untilKept(page);
  await expect.poll(() => column(page, 'Kite')).toBe('1*2 2*2 3*2');
  await expect(page.getByText('6 fr · 3 drawings')).toBeVisible();

  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-begun-'));
  const film = path.join(folder, 'gust.mp4');
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=640x360:rate=25:duration=2', '-pix_fmt', 'yuv420p', film]);
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  await drop(page, [{ name: 'gust.mp4', type: 'video/mp4', bytes: await readFile(film) }]);
  await expect(page.getByTestId('begun')).toContainText('A film of 640 × 360, 50 frames, 25 a second');
  await expect(page.getByText('50 frames at 25 = 2 s')).toBeVisible();
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page.getByRole('dialog')).toContainText('gust.mp4');
});

test('help, with its search and the tour, is there before any project is; a project without a title says what is missing', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  const help = page.getByRole('dialog', { name: 'Help' });
  await expect(async () => {
    await page.keyboard.press('F1');
    await expect(help).toBeVisible({ timeout: 500 });
  }).toPass();
  await expect(help.getByRole('heading', { name: 'The shelf and the store' })).toBeVisible();
  await page.keyboard.type('onion skin');
  await expect(help.getByRole('region', { name: 'The page of help' }).getByRole('heading', { name: 'Draw', exact: true })).toBeVisible();
  await help.getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('Shift+?');
  await expect(help).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'New project' }).click();
  const title = page.getByLabel('Title');
  await expect(title).toBeFocused();
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page.getByText('Give the project a title first.')).toBeVisible();
  await expect(title).toBeFocused();
  await title.fill('?');
  await expect(page.getByText('Give the project a title first.')).toBeHidden();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Help' }).click();
  await help.getByRole('button', { name: 'Ten minutes with Washday' }).click();
  await expect(page).toHaveURL(/\/projects\/washday\/plan/);
  await expect(page.getByRole('complementary', { name: 'Ten minutes with Washday' })).toContainText('1 of');
});
