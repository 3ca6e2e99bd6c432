import { expect, test } from './fixtures';

test('a part of the page that fails takes nothing else with it, says what is safe, and comes back', async ({ page, app }) => {
  let broken = true;
  await page.route('**/api/projects/washday', async (route) => {
    const answer = await route.fetch();
    const body = (await answer.json()) as { project: { shots: { levels: { charts: unknown }[] }[] } };
    // A timing chart that is not one, as a fault of the program's own could leave it.
    if (broken)
      for (const shot of body.project.shots) for (const level of shot.levels) level.charts = [{ id: 'x', shape: 'none', ticks: null }];
    await route.fulfill({ response: answer, json: body });
  });
  await page.goto(`${app.url}/projects/washday/plan`);
  const alert = page.getByRole('alert').filter({ hasText: 'could not be shown' }).first();
  await expect(alert).toBeVisible();
  await expect(alert).toContainText('everything else you did are safe');
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  await expect(page.getByRole('timer')).toBeVisible();
  broken = false;
  await page.reload();
  await expect(page.getByRole('grid')).toBeVisible();
  await expect(page.getByText('could not be shown')).toHaveCount(0);
});

test('an address that leads nowhere has a way back', async ({ page, app }) => {
  await page.goto(`${app.url}/nowhere/at/all`);
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Lime Tick' })).toBeVisible();
  await page.goto(`${app.url}/projects/washday/nowhere`);
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
});
