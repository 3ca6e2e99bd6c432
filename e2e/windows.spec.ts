import type { Page } from '@playwright/test';
import { expectReadable } from './everybody';
import { expect, openShot, openStage, test } from './fixtures';

/** Opens what a command asks, by its keys, or sought by its words. */
async function open(page: Page, how: string): Promise<void> {
  if (!how.startsWith('find ')) {
    await page.keyboard.press(how);
    return;
  }
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.type(how.slice('find '.length));
  await page.keyboard.press('Enter');
}

const WINDOWS: Readonly<Record<string, readonly string[]>> = {
  plan: ['F1', 'Control+k', 'Alt+p', 'g', 't', 'y', 'Enter', 'Shift+P', 'find shortcuts', 'find sounds', 'find print', 'find picture size'],
  assemble: ['Alt+Shift+F', 'Alt+Shift+P', 'Alt+Shift+N'],
};

for (const [stage, windows] of Object.entries(WINDOWS)) {
  test(`every window of ${stage} can be read by everyone, and Escape and its cross close it`, async ({ page, app }) => {
    await openStage(page, app.url, 'washday', stage);
    await openShot(page, '020');
    await page.emulateMedia({ reducedMotion: 'reduce' });
    // A block is chosen, or an item of the reel: some windows ask about that.
    if (stage === 'plan') for (const key of ['Home', 'Control+ArrowDown', 'Control+ArrowDown']) await page.keyboard.press(key);
    else await page.getByRole('option').nth(1).click();
    for (const [index, how] of windows.entries()) {
      await open(page, how);
      const window = page.getByRole('dialog');
      await expect(window, how).toHaveCount(1);
      await expect(window, how).toHaveAccessibleName(/\S/);
      await page.emulateMedia({ reducedMotion: 'reduce', colorScheme: index % 2 === 0 ? 'light' : 'dark' });
      await expectReadable(page, how, { within: '[role="dialog"]' });
      const cross = window.getByRole('button', { name: 'Close' });
      if (index % 3 === 0 && (await cross.count()) === 1) await cross.click();
      else await page.keyboard.press('Escape');
      await expect(window, how).toHaveCount(0);
    }
  });
}
