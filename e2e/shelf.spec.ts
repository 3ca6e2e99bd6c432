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

test('the shelf comes with its cards, which it doesn’t wait for its own question to show; what it is told then takes their place', async ({
  page,
  app,
}) => {
  await makeProject(app.url, { ...FILM, title: 'Comes with the page' }, { drawings: 3, hold: 2 });
  const errors: string[] = [];
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  let answer = () => {};
  const mayAnswer = new Promise<void>((resolve) => {
    answer = resolve;
  });
  await page.route('**/api/projects', async (route) => {
    const response = await route.fetch();
    const told = (await response.json()) as { projects: { title: string }[] };
    await mayAnswer;
    for (const each of told.projects) each.title = each.title.replace('Comes with the page', 'Told later');
    await route.fulfill({ response, json: told });
  });
  await page.goto(app.url);
  const card = (title: string) => page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: title }) });
  await expect(card('Comes with the page')).toContainText('50 fr at 25 = 2.000 s');
  // The day as the person's own browser writes it, once the page is alive.
  await expect(card('Comes with the page').getByText(/saved .*\d{4}, \d+:\d\d [AP]M/)).toBeVisible();
  await page.getByRole('searchbox', { name: 'Find a project' }).fill('comes with');
  await expect(page.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('searchbox', { name: 'Find a project' }).fill('');
  answer();
  await expect(card('Told later')).toBeVisible();
  await expect(card('Comes with the page')).toHaveCount(0);
  expect(errors).toEqual([]);
});
