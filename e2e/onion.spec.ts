import { column, expect, goToFrame, openStage, test, untilKept, untilLaid } from './fixtures';
import { makeProject, projectOnServer } from './projects';

const FILM = { title: 'Neighbours', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 12 };

test('the onion skin is pulled on the sheet, its neighbours switched off one by one, and drawings pinned', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 24 }, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await goToFrame(page, 11);
  await untilLaid(page);
  const panel = page.getByRole('region', { name: 'Onion skin' });
  await expect(panel.getByText('2 before')).toBeVisible();
  const grip = await page.getByTestId('onion-before').boundingBox();
  if (!grip) throw new Error('There is no bracket.');
  await page.mouse.move(grip.x + 6, grip.y + 4);
  await page.mouse.down();
  await page.mouse.move(grip.x + 6, grip.y - 60, { steps: 4 });
  await page.mouse.up();
  await expect(panel.getByText('4 before')).toBeVisible();
  await expect(page.getByTestId('frame-now')).toHaveText('11');

  await page.getByRole('button', { name: 'Drawing 5 shines through' }).click();
  await expect(page.getByRole('button', { name: 'Drawing 5 doesn’t shine through' })).toBeVisible();
  for (const number of [2, 3, 4, 7]) await page.getByRole('button', { name: `Drawing ${number} shines through` }).click();
  await expect(panel.getByText('Nothing shows: its neighbours are switched off on the sheet.')).toBeVisible();

  await page.keyboard.press('Home');
  await page.keyboard.press('p');
  await expect(panel.getByRole('button', { name: 'Unpin Level 1 · 1' })).toBeVisible();
  await goToFrame(page, 11);
  await expect(panel.getByText('Its reach is the bracket on the sheet')).toBeVisible();
  await panel.getByRole('radio', { name: 'By frame' }).click();
  await expect(page.getByRole('button', { name: /^Drawing 5 / })).toBeVisible();
  await panel.getByRole('button', { name: 'Unpin Level 1 · 1' }).click();
  await expect(panel.getByRole('button', { name: /^Unpin/ })).toHaveCount(0);
});

test('a drawing that shows in several places says so and becomes its own; any drawing is copied here', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 6 }, { drawings: 3, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await goToFrame(page, 5);
  await page.keyboard.press('Shift+A');
  await page.getByLabel('Its number').fill('1');
  await page.getByRole('button', { name: 'Expose' }).click();
  await expect(page.getByText('Shows in 2 places: what you draw changes all.')).toBeVisible();
  await page.getByRole('button', { name: 'Make independent here' }).click();
  await expect(page.getByRole('heading', { name: 'Level 1 · 4' })).toBeVisible();
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*2 4*2');
  // The menu speaks of the frame one is on, also where nothing but the frame has changed.
  await goToFrame(page, 3);
  await page.getByRole('button', { name: 'More on drawings' }).click();
  await expect(page.getByRole('menuitem', { name: /^Delete drawing 2 and its 1 exposure/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('grid').focus();
  await goToFrame(page, 6);
  await page.getByRole('button', { name: 'More on drawings' }).click();
  await expect(page.getByRole('menuitem', { name: /^Delete drawing 4 and its 1 exposure/ })).toBeVisible();
  await page.getByRole('menuitem', { name: /^Copy any drawing here/ }).click();
  await page.getByLabel('Number of the drawing to copy').fill('2');
  await expect(page.getByText('Copy 2 as drawing 5 on frame 6')).toBeVisible();
  await page.getByRole('button', { name: 'Copy it' }).click();
  await untilKept(page);
  const { drawings } = (await projectOnServer(app.url, projectId)).shots[0]?.levels[0] ?? { drawings: [] };
  const pictureOf = (number: string) => drawings.find((drawing) => drawing.number === number)?.picture;
  expect([pictureOf('4'), pictureOf('5')]).toEqual([pictureOf('1'), pictureOf('2')]);
});

test('brush and onion skin are found as they were left', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await untilLaid(page);
  await page.getByRole('button', { name: 'One more before' }).click();
  await page.getByRole('button', { name: 'What is before: filled' }).click();
  await page.getByRole('button', { name: 'Pond' }).click();
  await page.keyboard.press('+');
  await page.keyboard.press('p');
  await page.keyboard.press('z');
  await expect(page.getByText('mirrored')).toBeVisible();
  await page.reload();
  await untilLaid(page);
  await expect(page.getByText('3 before')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Unpin/ })).toBeVisible();
  await expect(page.getByText('mirrored')).toBeVisible();
  await expect(page.getByRole('button', { name: 'What is before: outline' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pond' })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('toolbar', { name: 'Tools' }).getByText('8 px')).toBeVisible();
});
