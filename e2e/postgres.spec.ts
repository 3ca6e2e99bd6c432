import type { Step } from '../src/core/edit/step';
import { type Postgres, postgresPrograms, startPostgres } from '../src/testing/postgres';
import { expect, openStage, test } from './fixtures';
import { makeProject, projectOnServer, sendSteps } from './projects';
import { newDataFolder, type Running, startServer } from './server';

const programs = postgresPrograms();
const FILM = { title: 'Shared', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 24 };

test.describe('on a PostgreSQL server', () => {
  test.skip(programs === null, 'PostgreSQL is not installed here.');
  test.describe.configure({ mode: 'serial' });
  let postgres: Postgres;
  let servers: Running[] = [];

  test.beforeAll(async () => {
    postgres = await startPostgres(programs ?? '');
    const start = async () => startServer(await newDataFolder(), undefined, { DATABASE_URL: postgres.url });
    // Both find empty tables at the same moment.
    servers = await Promise.all([start(), start(), start()]);
  });
  test.afterAll(async () => {
    for (const server of servers) await server.kill('SIGTERM');
    postgres?.stop();
  });

  test('several Lime Ticks that start together all serve, and see the same', async () => {
    const [first, second, third] = servers as [Running, Running, Running];
    const id = await makeProject(first.url, FILM, { drawings: 4, hold: 2 });
    const project = await projectOnServer(first.url, id);
    expect(await projectOnServer(second.url, id)).toEqual(project);
    const shotId = project.shots[0]?.id ?? '';
    const step = (frames: number): Step => ({ type: 'setShotLength', shotId, frames });
    await sendSteps(second.url, id, [step(30)]);
    await sendSteps(third.url, id, [step(36)]);
    await sendSteps(first.url, id, [step(40)]);
    for (const server of servers) expect((await projectOnServer(server.url, id)).shots[0]?.frames).toBe(40);
  });

  test('a window on one sees what was made on another within moments', async ({ page }) => {
    const [first, second] = servers as [Running, Running];
    const id = await makeProject(first.url, FILM, { drawings: 4, hold: 2 });
    const shotId = (await projectOnServer(first.url, id)).shots[0]?.id ?? '';
    await openStage(page, first.url, id, 'plan');
    await sendSteps(second.url, id, [{ type: 'setShotLength', shotId, frames: 30 }]);
    await expect(page.getByText('30 fr · 4 drawings')).toBeVisible();
  });

  test('while the database is away the answer is a sentence; afterwards everything goes on, and what waited arrives', async ({ page }) => {
    const [first] = servers as [Running];
    const id = await makeProject(first.url, FILM, { drawings: 4, hold: 2 });
    await openStage(page, first.url, id, 'plan');
    postgres.stop();
    const answer = await fetch(`${first.url}/api/projects/${id}`);
    expect(answer.status).toBe(503);
    expect(((await answer.json()) as { error: string }).error).toContain('The database does not answer just now.');
    await page.keyboard.press('3');
    await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'waiting', { timeout: 30_000 });
    postgres.start();
    await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 60_000 });
    for (const server of servers) expect((await projectOnServer(server.url, id)).shots[0]?.levels[0]?.exposures[0]?.frames).toBe(3);
  });

  test('the shelf says that the database is away, asks again by itself, and shows its cards once it is back', async ({ page }) => {
    const [first] = servers as [Running];
    await makeProject(first.url, { ...FILM, title: 'On the shelf' }, { drawings: 4, hold: 2 });
    await page.goto(first.url);
    await expect(page.getByRole('heading', { name: 'On the shelf' })).toBeVisible();
    postgres.stop();
    await page.goto(first.url);
    await expect(page.getByRole('alert').filter({ hasText: 'The database does not answer just now.' })).toBeVisible();
    postgres.start();
    await expect(page.getByRole('heading', { name: 'On the shelf' })).toBeVisible({ timeout: 60_000 });
    await expect(page.getByRole('alert').filter({ hasText: 'The database does not answer just now.' })).toBeHidden();
  });
});
