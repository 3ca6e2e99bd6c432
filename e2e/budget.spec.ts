import { firstLoad, shelfUsable, stageUsable } from './firstLoad';
import { expect, test } from './fixtures';

/** The most a first load may weigh, in KiB packed with gzip. */
const SHELF_KIB = 250;
const STAGE_KIB = 450;

test('the programs of a first load keep to their budget', async ({ browser, app }) => {
  const visit = async (path: string, usable: typeof shelfUsable) => {
    const page = await browser.newPage();
    const weighed = await (await firstLoad(page, `${app.url}${path}`, usable)).scriptKib();
    await page.close();
    return weighed;
  };
  // Programs that weigh nothing were not counted.
  const shelf = await visit('/', shelfUsable);
  expect(shelf).toBeGreaterThan(50);
  expect(shelf).toBeLessThanOrEqual(SHELF_KIB);
  for (const stage of ['plan', 'draw', 'check', 'assemble', 'hand-over'])
    expect(await visit(`/projects/washday/${stage}`, stageUsable), stage).toBeLessThanOrEqual(STAGE_KIB);
});
