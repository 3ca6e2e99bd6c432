import type { Page } from '@playwright/test';
import { column, expect, goToFrame, openStage, test, untilKept } from './fixtures';
import { makeProject } from './projects';

const FILM = { title: 'Sheet', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

/** Where a frame of a level's column is on the screen; `part` is how far down its row. */
async function cellPoint(page: Page, level: string, frame: number, part = 0.5): Promise<[number, number]> {
  const header = await page.getByRole('columnheader', { name: new RegExp(`^${level}`) }).boundingBox();
  const ruler = await page.getByRole('rowheader', { name: `Frame ${frame}`, exact: true }).boundingBox();
  if (!header || !ruler) throw new Error('The sheet is not in sight.');
  return [header.x + header.width / 2, ruler.y + ruler.height * part];
}

async function drag(page: Page, from: [number, number], to: [number, number], before?: () => Promise<void>): Promise<void> {
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move(...to, { steps: 6 });
  await before?.();
  await page.mouse.up();
}

test('by keys: steps, lengths, new and copied drawings, blank, remove, delete, undo', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 4, hold: 2, levels: 2 });
  await openStage(page, app.url, projectId, 'plan');
  const sheet = () => column(page, 'Level 2');
  await expect.poll(sheet).toMatch(/^1\*2 2\*2 3\*2 4\*2 1\*2/);

  await goToFrame(page, 3);
  await page.keyboard.press('3');
  await expect.poll(sheet).toMatch(/^1\*2 2\*3 3\*2 4\*2/);
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByTestId('frame-now')).toHaveText('6');
  await page.keyboard.press('x');
  await expect.poll(sheet).toMatch(/^1\*2 2\*3 \.\*2 4\*2/);
  await page.keyboard.press('n');
  await expect.poll(sheet).toMatch(/^1\*2 2\*3 5\*2 4\*2/);
  await page.keyboard.press('k');
  await expect(page.getByRole('gridcell', { name: 'Level 2, drawing 5, key, frames 6 to 7, on twos, not drawn yet' })).toBeVisible();
  await page.keyboard.press('Delete');
  await expect.poll(sheet).toMatch(/^1\*2 2\*3 4\*2/);
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+Delete');
  await expect.poll(sheet).toMatch(/^\.\*2 2\*3 4\*2/);
  for (let undone = 0; undone < 6; undone++) await page.keyboard.press('Control+z');
  await expect.poll(sheet).toMatch(/^1\*2 2\*2 3\*2 4\*2 1\*2/);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('c');
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*2 5\*2 2\*2/);
  await untilKept(page);
});

test('several exposures at once: selected by keys and by mouse, set on ones', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  await goToFrame(page, 3);
  for (let frame = 0; frame < 4; frame++) await page.keyboard.press('Control+ArrowDown');
  await expect(page.getByRole('gridcell', { selected: true })).toHaveCount(3);
  await page.keyboard.press('1');
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*2 2\*1 3\*1 4\*1 5\*2/);
  await page.keyboard.press('Escape');
  await page.mouse.click(...(await cellPoint(page, 'Level 1', 1)));
  await page.keyboard.down('Shift');
  await page.mouse.click(...(await cellPoint(page, 'Level 1', 5)));
  await page.keyboard.up('Shift');
  await expect(page.getByRole('gridcell', { selected: true })).toHaveCount(4);
  await page.getByRole('button', { name: 'Threes' }).click();
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*3 2\*3 3\*3 4\*3 5\*2/);
});

test('an exposure’s end is dragged, pushing or covering, and an exposure is dragged elsewhere', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  await drag(page, await cellPoint(page, 'Level 1', 2, 0.9), await cellPoint(page, 'Level 1', 5), async () => {
    await expect(page.getByText('1: 2 → 5 frames, what follows moves 3 frames down')).toBeVisible();
  });
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*5 2\*2 3\*2/);
  await page.keyboard.press('Control+z');
  // What was chosen by the drag goes back with it: the next drag takes one exposure, not frames of three.
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*2 2\*2 3\*2/);
  await expect(page.getByRole('gridcell', { selected: true })).toHaveCount(1);
  await page.getByRole('radio', { name: 'Cover the rest' }).click();
  await drag(page, await cellPoint(page, 'Level 1', 2, 0.9), await cellPoint(page, 'Level 1', 5));
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*5 3\*1 4\*2/);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  await drag(page, await cellPoint(page, 'Level 1', 3, 0.4), await cellPoint(page, 'Level 1', 9, 0.4), async () => {
    await expect(page.getByText('Move 2 to frames 9–10, over what is there; 5 is no longer exposed')).toBeVisible();
  });
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*2 \.\*2 3\*2 4\*2 2\*2 6\*2/);
});

test('a block over several exposures is dragged elsewhere as one; a press in it without a drag chooses one exposure', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  for (let frame = 0; frame < 3; frame++) await page.keyboard.press('Control+ArrowDown');
  await expect(page.getByRole('gridcell', { selected: true })).toHaveCount(2);
  await drag(page, await cellPoint(page, 'Level 1', 2, 0.3), await cellPoint(page, 'Level 1', 6, 0.3), async () => {
    await expect(page.getByText('Move to frames 5–8, pushing what is there down')).toBeVisible();
  });
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^3\*2 4\*2 1\*2 2\*2 5\*2/);
  await expect(page.getByRole('gridcell', { selected: true })).toHaveCount(2);
  await page.mouse.click(...(await cellPoint(page, 'Level 1', 7, 0.3)));
  await expect(page.getByRole('gridcell', { selected: true })).toHaveCount(1);
});

test('a shot of 10,000 frames keeps only the rows in sight, and reaches its end', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 10_000 }, { drawings: 8, hold: 2, levels: 3 });
  await openStage(page, app.url, projectId, 'plan');
  await expect(page.getByRole('grid')).toHaveAttribute('aria-rowcount', '10001');
  expect(await page.getByRole('gridcell').count()).toBeLessThan(400);
  await page.keyboard.press('End');
  await expect(page.getByTestId('frame-now')).toHaveText('10000');
  await expect(page.getByRole('rowheader', { name: 'Frame 10000', exact: true })).toBeInViewport();
  await expect(page.getByRole('timer')).toContainText('of 10000');
});

test('every edit is in the finder, with its keys', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'plan');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('twos');
  const edit = page.getByRole('option', { name: /Expose on twos: every drawing, new length/ });
  await expect(edit).toContainText('2');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('go to assemble');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/assemble(\?|$)/);
});

test('a moment is gone to in any count, and words are written on its frame', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 96 }, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  await page.keyboard.press('g');
  await page.keyboard.type('1s6');
  await expect(page.getByLabel('What it will do')).toHaveText('Frame 31: 1.250 s · 00:00:01:06 · 1 ft 14 fr');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('frame-now')).toHaveText('31');
  await page.keyboard.press('g');
  await page.keyboard.type('97');
  await expect(page.getByLabel('What it will do')).toHaveText('Shot 010 ends with frame 96.');
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  await page.keyboard.type('lets go');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('gridcell', { name: 'lets go' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('gridcell', { name: 'lets go' })).toBeHidden();
});
