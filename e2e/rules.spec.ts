import type { Page } from '@playwright/test';
import { emptyChart } from '../src/core/chart/chartTicks';
import { type Drawing, newLevel } from '../src/core/document/model';
import { column, expect, openStage, test, untilKept } from './fixtures';
import { makeProject, projectOnServer, sendSteps } from './projects';

const FILM = { title: 'Ruled', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

const findingsOf = (page: Page) => page.getByRole('region', { name: 'Findings' });
const cardWith = (page: Page, words: string) => findingsOf(page).getByRole('listitem').filter({ hasText: words });

/** Presses Tab until the button with these words has the focus. */
async function tabTo(page: Page, words: string): Promise<void> {
  for (let presses = 0; presses < 60; presses++) {
    await page.keyboard.press('Tab');
    if ((await page.evaluate(() => document.activeElement?.textContent)) === words) return;
  }
  throw new Error(`No button says “${words}”.`);
}

test('a cycle’s seam, numbers out of order and a chart that doesn’t fit are found, and fixed by keyboard alone', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 3, hold: 2 });
  const shot = (await projectOnServer(app.url, projectId)).shots[0];
  const shotId = shot?.id ?? '';
  const cycle = { shotId, levelId: shot?.levels[0]?.id ?? '' };
  const run = (index: number, frames: number) => ({ drawing: `d0-${index}`, frames });
  const round = [run(1, 2), run(2, 2), run(0, 4)];
  const drawing = (number: string, role: Drawing['role']): Drawing => ({ id: `p${number}`, number, role, picture: null });
  const planned = {
    ...newLevel('planned', 'Sock'),
    drawings: [drawing('1', 'key'), drawing('2', 'inbetween'), drawing('3', 'inbetween'), drawing('4', 'key')],
    exposures: ['p1', 'p3', 'p2', 'p4'].map((id) => ({ drawing: id, frames: 6 })),
    charts: [emptyChart('chart', 'p1', 'p4')],
  };
  await sendSteps(app.url, projectId, [
    {
      type: 'replaceRuns',
      ...cycle,
      startFrame: 0,
      removedFrames: 24,
      runs: [run(0, 2), ...round, ...round, run(1, 2), run(2, 2), run(0, 2)],
    },
    { type: 'addLevel', shotId, level: planned, index: 1 },
  ]);
  await openStage(page, app.url, projectId, 'check');
  const seam = cardWith(
    page,
    'The cycle of Level 1 begins and ends with 1: it is held for 4 frames at every seam, 2 elsewhere, first from frame 7.',
  );
  const order = cardWith(page, 'Sock in shot 010 is numbered out of order: 2 after 3, from frame 13.');
  const chart = cardWith(page, 'chart 1 → 4 holds 0 in-betweens, the sheet shows 2 between its keys.');
  for (const card of [seam, order, chart]) await expect(card).toBeVisible();

  // The chart's fix first: then the focus is on the card that takes its place, and goes on from there.
  const wordsOf = async (card: typeof seam, place: number) => (await card.getByRole('button').nth(place).textContent()) ?? '';
  await tabTo(page, await wordsOf(chart, 1));
  await page.keyboard.press('Enter');
  await expect(chart).toHaveCount(0);
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest('[data-finding]') !== null)).toBe(true);
  await page.keyboard.press('Control+z');
  await expect(chart).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  for (const card of [seam, order]) {
    await page.getByRole('grid').focus();
    await tabTo(page, await wordsOf(card, 1));
    await page.keyboard.press('Enter');
    await expect(card).toHaveCount(0);
  }
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*2 2\*2 3\*2 1\*2 2\*2 3\*2 1\*2/);
  await expect.poll(() => column(page, 'Sock')).toBe('1*6 2*6 3*6 4*6');
  await untilKept(page);
});

test('a loop that ends as it begins, and a shot that begins as the one before ends, are found', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 3, hold: 2 });
  const shot = (await projectOnServer(app.url, projectId)).shots[0];
  if (!shot) throw new Error('The project has a shot.');
  const levels = shot.levels.map((level) => ({
    ...level,
    id: 'again',
    drawings: [{ id: 'a', number: '1', role: 'key' as const, picture: level.drawings[2]?.picture ?? null }],
    exposures: [{ drawing: 'a', frames: 6 }],
  }));
  await sendSteps(app.url, projectId, [
    {
      type: 'addShot',
      shot: { ...shot, id: 'next', code: '020', frames: 6, levels },
      index: 1,
      items: [{ item: { id: 'next', kind: 'shot', finished: true, shotId: 'next', trim: null }, index: 1 }],
    },
  ]);
  await openStage(page, app.url, projectId, 'check');
  await expect(
    cardWith(page, 'Shot 020 begins with the picture shot 010 ends with: over the cut it is held for 8 frames, 2 and 6.'),
  ).toBeVisible();
  // Frames 1 to 8 end with the drawing they begin with.
  await page.getByRole('grid').focus();
  await page.keyboard.press('Home');
  for (let press = 0; press < 7; press++) await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('l');
  const looped = cardWith(
    page,
    'Looped over frames 1–8, shot 010 ends with the picture it begins with: at the seam it is held for 4 frames, 2 and 2.',
  );
  await expect(looped).toBeVisible();
  await page.keyboard.press('l');
  await expect(looped).toHaveCount(0);
});

test('a guide whose picture no longer decodes is told, and everything else goes on', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 2, hold: 12 });
  const shot = (await projectOnServer(app.url, projectId)).shots[0];
  const level = shot?.levels[0];
  const broken = level?.drawings[1]?.picture ?? '';
  await sendSteps(app.url, projectId, [
    { type: 'describeLevel', shotId: shot?.id ?? '', levelId: level?.id ?? '', change: { kind: 'guide' } },
  ]);
  await page.route('**/api/pictures?*', async (route) => {
    const digests = (new URL(route.request().url()).searchParams.get('digests') ?? '').split('.');
    if (!digests.includes(broken)) return route.continue();
    const nonsense = Buffer.from('nothing a picture could be made of');
    const length = Buffer.alloc(4);
    length.writeUInt32BE(nonsense.byteLength);
    const parts = await Promise.all(
      digests.map(async (digest) =>
        digest === broken
          ? Buffer.concat([length, nonsense])
          : Buffer.from(await (await fetch(`${app.url}/api/pictures?digests=${digest}`)).arrayBuffer()),
      ),
    );
    return route.fulfill({ body: Buffer.concat(parts), contentType: 'application/octet-stream', headers: { 'lime-tick': '1' } });
  });
  await openStage(page, app.url, projectId, 'check');
  const card = cardWith(page, 'The picture of guide Level 1 · 2 can’t be read any more');
  await expect(card).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByTestId('late')).toHaveText(/ of [1-9]\d* late/);
  await page.keyboard.press('Space');
  await card.getByRole('button', { name: 'Make 2 an empty drawing, to be drawn again' }).click();
  await expect(card).toHaveCount(0);
});
