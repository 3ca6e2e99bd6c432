import { expectReadable } from './everybody';
import { column, expect, openStage, stroke, test, untilKept } from './fixtures';
import { makeProject } from './projects';

const FILM = { title: 'Past', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

test('a moment is named, opened beside today, and a drawing, a level and the whole are taken out of it; a change of the past is undone', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 3, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, [
    [0.2, 0.2],
    [0.6, 0.6],
  ]);
  await untilKept(page);
  await page.keyboard.press('3');
  await untilKept(page);
  const before = await column(page, 'Level 1');
  expect(before).toContain('*3');
  await page.keyboard.press('Alt+7');
  const moments = page.getByRole('region', { name: 'Moments' });
  await expect(moments.getByRole('button', { name: /^As it was before/ })).toHaveAttribute('aria-pressed', 'true');
  await moments.getByRole('button', { name: /New drawing/ }).click();
  const name = page.getByLabel('Name of this moment');
  await name.fill('before the retake');
  await name.press('Enter');
  await expect(moments.getByRole('button', { name: /before the retake/ })).toBeVisible();
  const sheets = page.getByRole('table', { name: 'The sheets, then and now' });
  await expect(sheets).toContainText('became');
  // One stop for Tab, and arrows between the frames.
  await sheets.getByRole('button', { name: 'Go to frame 1', exact: true }).focus();
  await page.keyboard.press('End');
  await expect(sheets.getByRole('button', { name: `Go to frame ${FILM.frames}` })).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await expect(sheets.getByRole('button', { name: `Go to frame ${FILM.frames - 1}` })).toBeFocused();
  await page.keyboard.press('Home');
  await expect(sheets.getByRole('button', { name: 'Go to frame 1', exact: true })).toBeFocused();
  await expect(sheets.locator('button[tabindex="0"]')).toHaveCount(1);
  await expect(page.getByRole('figure').first()).toContainText('before the retake');
  await expectReadable(page, 'two moments beside each other');

  const figures = page.getByRole('region', { name: 'The moment' });
  await expect(figures.getByText('redrawn')).toBeVisible();
  await figures
    .getByRole('listitem')
    .filter({ hasText: /^drawing/ })
    .getByRole('button', { name: 'Take out' })
    .click();
  await expect(figures.getByText('redrawn')).toHaveCount(0);
  await figures.getByRole('button', { name: 'Go back to all of it' }).click();
  await expect(sheets).not.toContainText('became');
  // It is a step: undone, today is as it was a moment ago.
  await page.keyboard.press('Control+z');
  await expect(sheets).toContainText('became');
  await untilKept(page);

  // What anyone did, whenever, is undone by itself.
  await page.reload();
  await moments.getByRole('button', { name: /on threes/ }).click();
  await figures.getByRole('button', { name: /^Undo .*on threes/ }).click();
  await expect(page.getByText(/: done\.$/)).toBeVisible();
  await untilKept(page);
  await page.getByRole('link', { name: /^Draw/ }).click();
  expect(await column(page, 'Level 1')).not.toBe(before);

  // As a project of its own; going there goes on while the address is written of where one was.
  await page.route(/_rsc=/, async (route) => {
    await page.waitForURL(/\/past\?shot=/);
    await route.continue();
  });
  await page.keyboard.press('Alt+7');
  await expect(page).toHaveTitle('Past · 010 · Past');
  await moments.getByRole('button', { name: /^before the retake/ }).click();
  await figures.getByRole('button', { name: 'As a new project' }).click();
  await expect(page.getByRole('banner')).toContainText('Past (as at');
});
