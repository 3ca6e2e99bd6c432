import { expect, openStage, test } from './fixtures';
import { makeProject } from './projects';

const FILM = { title: 'Shelf one', rate: { num: 25, den: 1 }, size: { width: 64, height: 36 }, frames: 50 };

test('a project is found, renamed, duplicated, put away and back, and deleted for good; a window that is open on it follows', async ({
  page,
  app,
  context,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 3, hold: 2 });
  const other = await context.newPage();
  await openStage(other, app.url, projectId, 'plan');
  await page.goto(app.url);
  const projects = page.getByRole('list', { name: 'Projects' }).getByRole('listitem');
  const act = async (title: string, words: RegExp) => {
    await page.getByRole('button', { name: `More about ${title}`, exact: true }).click();
    await page.getByRole('menuitem', { name: words }).click();
  };
  await page.getByRole('searchbox', { name: 'Find a project' }).fill('one SHELF');
  await expect(projects).toHaveCount(1);

  await act('Shelf one', /^Rename/);
  await page.getByLabel('Title').fill('Shelf two');
  await page.getByLabel('Title').press('Enter');
  await page.getByRole('searchbox', { name: 'Find a project' }).fill('shelf two');
  await expect(projects.getByRole('heading')).toHaveText(['Shelf two']);
  await expect(other.getByRole('banner')).toContainText('Shelf two');

  await act('Shelf two', /^Duplicate/);
  await page.getByRole('combobox', { name: 'Order' }).selectOption('By name');
  await expect(projects.getByRole('heading')).toHaveText(['Shelf two', 'Shelf two (copy)']);

  await act('Shelf two (copy)', /^Put away/);
  await expect(projects).toHaveCount(1);
  await page.getByRole('radio', { name: /^Put away \(\d/ }).click();
  await expect(projects.getByRole('heading')).toHaveText(['Shelf two (copy)']);
  await act('Shelf two (copy)', /^Put back/);
  await page.getByRole('radio', { name: 'On the shelf' }).click();
  await expect(projects).toHaveCount(2);

  // By the keys alone.
  const more = page.getByRole('button', { name: 'More about Shelf two (copy)' });
  await more.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem', { name: 'Rename …' })).toBeFocused();
  await page.keyboard.press('End');
  await expect(page.getByRole('menuitem', { name: 'Delete for good …' })).toBeFocused();
  await page.keyboard.press('Enter');
  const asked = page.getByRole('dialog', { name: 'Delete Shelf two (copy) for good' });
  await expect(asked).toContainText('1 shot with 3 drawings');
  await asked.getByRole('button', { name: 'Delete for good' }).click();
  await expect(projects.getByRole('heading')).toHaveText(['Shelf two']);
});

test('the store says where everything lies, makes a backup and reads it back, and what it says can be copied', async ({
  page,
  app,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto(app.url);
  await page.getByRole('link', { name: 'The store' }).click();
  await expect(page.getByText(app.folder, { exact: true })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'Washday' })).toContainText('MB');
  await page.getByRole('button', { name: 'Make one now' }).click();
  await expect(page.getByText('it was opened and read back')).toBeVisible({ timeout: 60_000 });
  await page.getByLabel('Kept').fill('5');
  await page.getByLabel('Kept').press('Enter');
  await page.reload();
  await expect(page.getByLabel('Kept')).toHaveValue('5');
  await page.getByRole('button', { name: 'Copy all of it for a report' }).click();
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('Project: Washday');
});
