import type { Browser, Page } from '@playwright/test';
import { type Postgres, postgresPrograms, startPostgres } from '../src/testing/postgres';
import { expect, openStage, stroke, test, untilKept } from './fixtures';
import { makeProject, projectOnServer } from './projects';
import { newDataFolder, type Running, startServer } from './server';

const programs = postgresPrograms();
const FILM = { title: 'Team', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

/** A browser of one's own, whose person has said who they are. */
async function comeIn(browser: Browser, url: string, projectId: string, name: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await openStage(page, url, projectId, 'draw');
  await page.getByRole('button', { name: /^People/ }).click();
  await page.getByLabel('Your name, as others see it').fill(name);
  await page.getByRole('button', { name: 'That’s me' }).click();
  await page.keyboard.press('Escape');
  return page;
}

test.describe('a team on one database', () => {
  test.skip(programs === null, 'PostgreSQL is not installed here.');
  let postgres: Postgres;
  let servers: Running[] = [];
  test.beforeAll(async () => {
    postgres = await startPostgres(programs ?? '');
    const start = async () => startServer(await newDataFolder(), undefined, { DATABASE_URL: postgres.url });
    servers = await Promise.all([start(), start()]);
  });
  test.afterAll(async () => {
    for (const server of servers) await server.kill('SIGTERM');
    postgres?.stop();
  });

  test('two people on two Lime Ticks see each other’s strokes, where each is, and who has a shot in hand', async ({ browser }) => {
    const [first, second] = servers as [Running, Running];
    const projectId = await makeProject(first.url, FILM, { drawings: 3, hold: 2 });
    const ada = await comeIn(browser, first.url, projectId, 'Ada');
    const ben = await comeIn(browser, second.url, projectId, 'Ben');
    await expect(ada.getByRole('button', { name: 'People: Ben' })).toBeVisible();
    await expect(ben.getByRole('button', { name: 'People: Ada' })).toBeVisible();

    // What each draws is with the other.
    const pictureOf = async (server: Running) => (await projectOnServer(server.url, projectId)).shots[0]?.levels[0]?.drawings[0]?.picture;
    const before = await pictureOf(second);
    await stroke(ada, [
      [0.2, 0.2],
      [0.7, 0.7],
    ]);
    await untilKept(ada);
    await expect(ben.getByText(/^Ada made 1 change/)).toBeVisible();
    const drawn = await pictureOf(second);
    expect(drawn).not.toBe(before);
    await stroke(ben, [
      [0.7, 0.2],
      [0.2, 0.7],
    ]);
    await untilKept(ben);
    await expect(ada.getByText(/^Ben made 1 change/)).toBeVisible();
    expect(await pictureOf(first)).not.toBe(drawn);

    // A shot in hand.
    await ada.getByRole('button', { name: 'People: Ben' }).click();
    await ada.getByRole('button', { name: 'Take in hand' }).click();
    await expect(ada.getByText('is in your hand since')).toBeVisible();
    const people = ben.getByRole('button', { name: 'People: Ada; Ada has shot 010 in hand' });
    await people.click();
    await ben.getByRole('button', { name: 'Take over' }).click();
    await expect(ada.getByText('is in Ben’s hand since')).toBeVisible();
    await ben.getByRole('button', { name: 'Give back' }).click();
    await expect(ada.getByText('is in nobody’s hand')).toBeVisible();

    // One follows the other, who then leaves.
    await ada.keyboard.press('Escape');
    await expect(ada.getByText('is in nobody’s hand')).toHaveCount(0);
    await ada.keyboard.press('Alt+1');
    await expect(ben.getByRole('list', { name: 'Who is here' })).toContainText('Plan');
    await ben.getByRole('button', { name: 'Go to where Ada is' }).click();
    await expect(ben.getByRole('link', { name: /^Plan/ })).toHaveAttribute('aria-current', 'page');
    await ada.close();
    await expect(ben.getByRole('button', { name: 'People: nobody else is here' })).toBeVisible();
    await ben.context().close();
  });
});
