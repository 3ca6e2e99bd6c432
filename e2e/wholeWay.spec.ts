import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { column, expect, stroke, test, untilKept } from './fixtures';
import { countSequence, probe } from './probe';

test('a new user makes a project, draws five drawings, sets them on twos with a hold, plays and hands over', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByLabel('Title').fill('Ball');
  await page.getByLabel(/^Length of the first shot/).fill('16');
  await expect(page.getByText('16 frames at 24 = about 0.667 s')).toBeVisible();
  await page.getByRole('button', { name: 'Start' }).click();
  await expect(page).toHaveURL(/\/plan(\?|$)/);
  await page.getByRole('link', { name: /^Draw/ }).click();
  await expect(page).toHaveURL(/\/draw(\?|$)/);

  await expect(page.getByText('a stroke begins drawing 1 on frames 1–2')).toBeVisible();
  for (let drawing = 0; drawing < 5; drawing++) {
    if (drawing > 0) {
      await page.keyboard.press('n');
      await expect(page.getByRole('heading', { name: `Level 1 · ${drawing + 1}` })).toBeVisible();
    }
    const y = 0.2 + drawing * 0.14;
    await stroke(page, [
      [0.3, y],
      [0.5, y + 0.08],
      [0.7, y],
    ]);
    await stroke(page, [
      [0.3 + drawing * 0.05, 0.9],
      [0.5 + drawing * 0.05, 0.85],
    ]);
  }
  await untilKept(page);
  await expect(page.getByText('5 of 5 drawn')).toBeVisible();
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*2 3*2 4*2 5*2 .*6');

  await page.keyboard.press('8');
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*2 3*2 4*2 5*8');
  await untilKept(page);

  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(page.getByRole('heading', { name: /No findings/ })).toBeVisible();
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('late')).toHaveText(/^\d+ of [1-9]\d* late$/);
  await page.keyboard.press('Space');

  await page.getByRole('link', { name: /^Hand over/ }).click();
  const film = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 16 frames' }).click();
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  const probed = probe(await (await film).path());
  expect(probed).toMatchObject({ frames: 16, rate: '24/1', codec: 'h264', width: 1280, height: 720 });

  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  const zip = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 16 frames' }).click();
  await expect(page.getByRole('article', { name: 'Receipt for ball_reel.zip' })).toContainText('agrees');
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-sequence-'));
  const zipPath = await (await zip).path();
  const reader = new ZipReader(new BlobReader(new Blob([await import('node:fs/promises').then((fs) => fs.readFile(zipPath))])));
  for (const entry of await reader.getEntries()) {
    if (!entry.directory) await writeFile(path.join(folder, entry.filename), await entry.getData(new Uint8ArrayWriter()));
  }
  expect(countSequence(path.join(folder, 'ball_reel.%04d.png'), 1)).toBe(16);

  await page.reload();
  await expect(page.getByTestId('verdict')).toHaveText(['agrees', 'agrees']);
  await expect(page.getByText('16 fr counted')).toBeVisible();
});
