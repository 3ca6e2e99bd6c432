import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { column, expect, test, untilKept } from './fixtures';
import { probe } from './probe';
import { focused } from './rings';

/*
 * The whole job by keyboard alone, as docs/keyboard.md has it: nothing here touches the mouse.
 */

const MOST_STOPS = 150;

/** Goes on with Tab, or back with Shift Tab, until what is called so has the focus; every stop on the way has to be seen. */
async function tabTo(page: Page, wanted: RegExp, key: 'Tab' | 'Shift+Tab' = 'Tab'): Promise<void> {
  for (let stop = 0; stop < MOST_STOPS; stop++) {
    const { name, unseen } = await focused(page);
    expect(unseen, `the ring around “${name}”`).toBe('');
    if (wanted.test(name)) return;
    await page.keyboard.press(key);
  }
  throw new Error(`Nothing called ${wanted} is reached by ${key}.`);
}

test('a film is begun, planned, drawn in, checked, put together and handed over by keyboard alone', async ({ page, app }) => {
  test.setTimeout(180_000);
  const pictures = await Promise.all(
    [1, 2, 3, 4].map(async (number) => ({
      name: `hop_${number}.png`,
      mimeType: 'image/png',
      buffer: await sharp({ create: { width: 1280, height: 720, channels: 4, background: { r: 50 * number, g: 120, b: 90, alpha: 1 } } })
        .png()
        .toBuffer(),
    })),
  );
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  await tabTo(page, /^New project$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.type('Hop');
  await tabTo(page, /^Length of the first shot/);
  await page.keyboard.press('Control+A');
  await page.keyboard.type('16');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/plan(\?|$)/);

  // Plan: eight drawings on twos at once, the first and the last of them keys, one held longer.
  await expect(page.getByRole('grid')).toBeVisible();
  await page.keyboard.press('Alt+P');
  const planning = page.getByRole('dialog');
  await expect(planning).toBeVisible();
  await tabTo(page, /^How many/);
  await page.keyboard.press('Control+A');
  await page.keyboard.type('4');
  await page.keyboard.press('Enter');
  await expect(planning).toBeHidden();
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*2 3*2 4*2 .*8');
  await tabTo(page, /^Sheet of shot/);
  await page.keyboard.press('Home');
  await page.keyboard.press('k');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('3');
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*3 3*2 4*2 .*7');
  await page.keyboard.press('Control+z');
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*2 3*2 4*2 .*8');

  // Draw: pictures from elsewhere are brought in; a panel is folded and shown again.
  await page.keyboard.press('Alt+2');
  await expect(page).toHaveURL(/\/draw(\?|$)/);
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+i');
  await (await chooser).setFiles(pictures);
  const bringing = page.getByRole('dialog');
  await expect(bringing).toContainText('4 pictures');
  await tabTo(page, /^Bring in/);
  await page.keyboard.press('Enter');
  await expect(bringing).toBeHidden();
  await untilKept(page);
  await expect.poll(() => column(page, 'Hop')).toBe('1*2 2*2 3*2 4*2 .*8');
  await page.keyboard.press('Alt+8');
  await expect(page.getByRole('grid')).not.toBeInViewport();
  await page.keyboard.press('Alt+8');
  await expect(page.getByRole('grid')).toBeInViewport();

  // Check: what was found is gone to and settled; it is played.
  await page.keyboard.press('Alt+3');
  await expect(page).toHaveURL(/\/check(\?|$)/);
  await expect(page.getByRole('heading', { name: /findings?/ })).toBeVisible();
  await tabTo(page, /^Go there$/);
  await page.keyboard.press('Enter');
  // On a button Space presses it; on the sheet it plays.
  await tabTo(page, /^Sheet of shot/, 'Shift+Tab');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('late')).toHaveText(/^\d+ of [1-9]\d* late/);
  await page.keyboard.press('Space');

  // Assemble: the shot is used a second time, by a command that is sought by its words, and that is undone.
  await page.keyboard.press('Alt+4');
  await expect(page).toHaveURL(/\/assemble(\?|$)/);
  await tabTo(page, /^Reel/);
  await page.keyboard.press('Home');
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox')).toBeFocused();
  await page.keyboard.type('use the item again');
  await expect(page.getByRole('option', { selected: true })).toContainText(/again/i);
  await page.keyboard.press('Enter');
  const path = page.getByRole('navigation', { name: 'Stages' });
  await expect(path).toContainText('32 fr');
  await page.keyboard.press('Control+z');
  await expect(path).not.toContainText('32 fr');

  // Hand over: one press, and the file is opened again and counted.
  await page.keyboard.press('Alt+5');
  await expect(page).toHaveURL(/\/hand-over(\?|$)/);
  await expect(page.getByRole('button', { name: 'Hand over 16 frames' })).toBeVisible();
  const film = page.waitForEvent('download');
  await tabTo(page, /^Hand over 16 frames/);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  expect(probe(await (await film).path())).toMatchObject({ frames: 16, rate: '24/1' });

  await page.keyboard.press('Alt+0');
  await expect(page).toHaveURL(`${app.url}/`);
  await expect(page.getByRole('heading', { name: 'Hop', exact: true })).toBeVisible();
});
