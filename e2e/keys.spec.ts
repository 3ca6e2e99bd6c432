import { expect, goToFrame, openStage, test, untilLaid } from './fixtures';
import { makeProject } from './projects';

const FILM = { title: 'Keys', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 12 };

test('a held key flips over the neighbours and comes back; the onion skin’s reach is played again and again', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await goToFrame(page, 5);
  await untilLaid(page);
  const heading = page.getByRole('heading', { level: 2, name: /^Level 1 · \d/ });
  await page.keyboard.down('q');
  for (const number of [2, 3, 4, 3, 2]) await expect(heading).toHaveText(`Level 1 · ${number}`);
  await page.keyboard.up('q');
  await expect(page.getByTestId('frame-now')).toHaveText('5');
  await page.keyboard.press('Shift+Q');
  await page.keyboard.down('q');
  for (const number of [1, 2, 3, 4, 5, 4]) await expect(heading).toHaveText(`Level 1 · ${number}`);
  await page.keyboard.up('q');
  await expect(page.getByTestId('frame-now')).toHaveText('5');

  await page.keyboard.press('Alt+q');
  await expect(page.getByRole('button', { name: 'Loop 1–8' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
});

test('a key that does nothing now says why, and leaves the browser its own', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 2, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  const notice = page.getByRole('listitem').filter({ hasText: 'Cycle the block: select a block first.' });
  await expect(page.getByTestId('frame-now')).toHaveText('1');
  await page.keyboard.press('y');
  await expect(notice).toBeVisible();
  // Undo with nothing to take back: the browser may have a use for it, and nothing is said.
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undo/)).toBeHidden();
  await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('y');
  await expect(page.getByRole('dialog')).toBeVisible();
});

test('keys are looked up and changed, a clash is told before it is taken, and they outlast a reload', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await page.keyboard.press('Control+.');
  const dialog = page.getByRole('dialog', { name: 'Shortcuts' });
  await dialog.getByLabel('Find a command, or a shortcut as Shift N').fill('erase');
  await dialog.getByRole('button', { name: 'Another shortcut for “Erase”' }).click();
  await page.keyboard.press('d');
  await expect(dialog.getByRole('alert')).toContainText('D is “Draw with the brush”.');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await dialog.getByRole('button', { name: 'Another shortcut for “Erase”' }).click();
  await page.keyboard.press('d');
  await dialog.getByRole('button', { name: 'Reassign' }).click();
  await expect(dialog.getByRole('button', { name: 'Reassign D from “Erase”' })).toBeVisible();
  await dialog.getByLabel('Find a command, or a shortcut as Shift N').fill('brush');
  await expect(dialog.getByText('Draw with the brush')).toBeVisible();
  await expect(dialog.getByRole('button', { name: /^Reassign D from/ })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: 'Eraser' })).toHaveAttribute('aria-pressed', 'true');

  await page.reload();
  await untilLaid(page);
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: 'Eraser' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Control+.');
  await dialog.getByRole('button', { name: 'Reset all' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: 'Brush', exact: true })).toHaveAttribute('aria-pressed', 'true');
  expect(await (await fetch(`${app.url}/api/settings/keys`)).json()).toEqual({});
  const refused = await fetch(`${app.url}/api/settings/keys`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ Brush: ['D'] }),
  });
  expect(refused.status).toBe(400);
});
