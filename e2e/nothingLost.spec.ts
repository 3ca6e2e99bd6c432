import type { Page } from '@playwright/test';
import { expect, goToFrame, openStage, stroke, strokeNow, test, untilKept, untilLaid } from './fixtures';
import { differing, pixelsOf } from './pixels';
import { emptyProject, makeProject, projectOnServer } from './projects';
import { freePort, startServer } from './server';
import { copiedDataFolder } from './templates';

/** How often a stroke is begun right behind a new drawing; 50 is run by hand. */
const RACES = Number(process.env.LIME_TICK_RACES ?? 3);
/** How many strokes are drawn while the server is off; 60 is run by hand. */
const STROKES = Number(process.env.LIME_TICK_STROKES ?? 2);

const SMALL = { title: 'Safe', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 24 };
const LINE = [
  [0.2, 0.3],
  [0.7, 0.6],
] as const;

const drawingsOf = async (url: string, id: string) => (await projectOnServer(url, id)).shots[0]?.levels[0]?.drawings ?? [];

/** How many pixels of a drawing have ink. */
async function inked(url: string, picture: string | null | undefined): Promise<number> {
  if (!picture) return 0;
  const pixels = await pixelsOf(url, picture);
  return differing(pixels, Buffer.alloc(pixels.byteLength));
}

test(`a stroke begun right behind N is never lost, at 4K, ${RACES} times`, async ({ page, app }) => {
  test.setTimeout(600_000);
  const size = { width: 3840, height: 2160 };
  const id = await emptyProject(app.url, { ...SMALL, size, frames: RACES });
  await openStage(page, app.url, id, 'draw');
  await untilLaid(page);
  for (let race = 0; race < RACES; race++) {
    if (race > 0) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('n');
    // Nothing is waited for: the pictures of the strokes before are still being made.
    const y = 0.1 + (0.8 * race) / RACES;
    await strokeNow(page, [
      [0.2, y],
      [0.8, y],
    ]);
  }
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 400_000 });
  const drawings = await drawingsOf(app.url, id);
  expect(drawings).toHaveLength(RACES);
  const ink = await Promise.all(drawings.map((drawing) => inked(app.url, drawing.picture)));
  expect(ink.filter((pixels) => pixels < 5000)).toEqual([]);
  // Each holds its own line and no other.
  expect(Math.max(...ink)).toBeLessThan(2 * Math.min(...ink));
});

test('with no room in the browser a stroke is sent straight away, and that is said once', async ({ page, app }) => {
  const id = await makeProject(app.url, SMALL, { drawings: 4, hold: 1 });
  await openStage(page, app.url, id, 'draw');
  await untilLaid(page);
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Storage.overrideQuotaForOrigin', { origin: app.url, quotaSize: 1000 });
  const before = await drawingsOf(app.url, id);
  for (const frame of [1, 2, 3]) {
    await goToFrame(page, frame);
    await stroke(page, LINE);
  }
  await untilKept(page);
  expect(await page.getByText('This browser keeps no copy of what you do').count()).toBeLessThanOrEqual(1);
  const after = await drawingsOf(app.url, id);
  for (const place of [0, 1, 2]) expect(after[place]?.picture).not.toBe(before[place]?.picture);
  await page.reload();
  await untilLaid(page);
  await untilKept(page);
  expect(await drawingsOf(app.url, id)).toEqual(after);
  await devtools.send('Storage.overrideQuotaForOrigin', { origin: app.url });
});

test(`${STROKES} large strokes drawn while the server is off all arrive`, async ({ page }) => {
  test.setTimeout(600_000);
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const size = { width: 3840, height: 2160 };
  const id = await emptyProject(first.url, { ...SMALL, size, frames: STROKES });
  await openStage(page, first.url, id, 'draw');
  await untilLaid(page);
  // A wide soft brush: every stroke is megabytes as a picture.
  for (let press = 0; press < 12; press++) await page.keyboard.press('+');
  await first.kill('SIGKILL');
  for (let place = 0; place < STROKES; place++) {
    if (place > 0) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('n');
    await strokeNow(page, [
      [0.1, 0.2],
      [0.9, 0.3 + 0.02 * place],
      [0.1, 0.6],
      [0.9, 0.8],
    ]);
  }
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'waiting', { timeout: 300_000 });
  await expect(page.getByTestId('kept')).toContainText('safe in this browser', { timeout: 300_000 });
  const second = await startServer(folder, port);
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 200_000 });
  const drawings = await drawingsOf(second.url, id);
  expect(drawings).toHaveLength(STROKES);
  for (const drawing of drawings) expect(await inked(second.url, drawing.picture)).toBeGreaterThan(10_000);
  await second.kill('SIGTERM');
});

test('another data folder on the same address: what was drawn waits, that is said, and arrives when the right one is back', async ({
  page,
}) => {
  const [folder, wrong] = [await copiedDataFolder(), await copiedDataFolder()];
  const port = await freePort();
  const first = await startServer(folder, port);
  const id = await makeProject(first.url, SMALL, { drawings: 2, hold: 12 });
  await openStage(page, first.url, id, 'draw');
  await untilLaid(page);
  await first.kill('SIGKILL');
  await stroke(page, LINE);
  const elsewhere = await startServer(wrong, port);
  const kept = page.getByTestId('kept');
  await expect(kept).toHaveAttribute('title', /There is no project .* here: it may have been saved in another data folder/, {
    timeout: 60_000,
  });
  await expect(kept).toHaveAttribute('data-state', 'waiting');
  await elsewhere.kill('SIGKILL');
  const second = await startServer(folder, port);
  await expect(kept).toHaveAttribute('data-state', 'kept', { timeout: 60_000 });
  expect(await inked(second.url, (await drawingsOf(second.url, id))[0]?.picture)).toBeGreaterThan(500);
  await second.kill('SIGTERM');
});

test('two tabs that both waited insert once each', async ({ page, context }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const id = await makeProject(first.url, SMALL, { drawings: 6, hold: 2 });
  const other = await context.newPage();
  for (const tab of [page, other]) await openStage(tab, first.url, id, 'plan');
  await first.kill('SIGKILL');
  await page.keyboard.press('3');
  await expect(page.getByTestId('kept')).toContainText('1 change safe in this browser', { timeout: 30_000 });
  await goToFrame(other, 5);
  await other.keyboard.press('4');
  await expect(other.getByTestId('kept')).toContainText('1 change safe in this browser', { timeout: 30_000 });
  const second = await startServer(folder, port);
  for (const tab of [page, other]) await expect(tab.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 60_000 });
  const runs = (await projectOnServer(second.url, id)).shots[0]?.levels[0]?.exposures ?? [];
  // Each length once, on the exposure it was made for: the first, and the third, which the first pushed a frame further.
  expect(runs.slice(0, 4).map((run) => run.frames)).toEqual([3, 2, 4, 2]);
  await second.kill('SIGTERM');
});

test('a tab that is closed leaves its waiting steps to the other, which sends them', async ({ page, context }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const id = await makeProject(first.url, SMALL, { drawings: 6, hold: 2 });
  const other = await context.newPage();
  for (const tab of [page, other]) await openStage(tab, first.url, id, 'plan');
  await first.kill('SIGKILL');
  await other.keyboard.press('3');
  await expect(other.getByTestId('kept')).toContainText('1 change safe in this browser', { timeout: 30_000 });
  const second = await startServer(folder, port);
  await second.kill('SIGKILL');
  await other.close();
  const third = await startServer(folder, port);
  await expect
    .poll(async () => (await projectOnServer(third.url, id)).shots[0]?.levels[0]?.exposures[0]?.frames, { timeout: 60_000 })
    .toBe(3);
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 60_000 });
  await third.kill('SIGTERM');
});

/** Strokes of a window that can't send just now. */
async function drawUnsent(page: Page): Promise<void> {
  await page.route('**/api/projects/*/steps*', (route) => route.abort());
  await stroke(page, [
    [0.3, 0.8],
    [0.8, 0.2],
  ]);
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'waiting', { timeout: 30_000 });
}

test('two windows that draw on one drawing: both pictures are kept, side by side, and one becomes a new drawing', async ({
  page,
  browser,
  app,
}) => {
  const id = await makeProject(app.url, SMALL, { drawings: 2, hold: 12 });
  await openStage(page, app.url, id, 'draw');
  await drawUnsent(page);
  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await openStage(other, app.url, id, 'draw');
  await stroke(other, LINE);
  await untilKept(other);
  const theirs = (await drawingsOf(app.url, id))[0]?.picture;
  await page.unroute('**/api/projects/*/steps*');
  await page.getByRole('button', { name: /Try now/ }).click();
  const aside = page.getByTestId('set-aside');
  await expect(aside).toHaveText('Set aside: 1', { timeout: 30_000 });
  expect((await drawingsOf(app.url, id))[0]?.picture).toBe(theirs);
  await page.reload();
  await untilLaid(page);
  await aside.click();
  await expect(page.getByText('yours, set aside')).toBeVisible();
  await expect(page.getByText('Level 1 · 1 as it is now')).toBeVisible();
  await page.getByRole('button', { name: 'Make it a new drawing' }).click();
  await expect(aside).toHaveCount(0);
  await untilKept(page);
  const drawings = await drawingsOf(app.url, id);
  expect(drawings.map((drawing) => drawing.number)).toEqual(['1', '1a', '2']);
  expect(drawings[0]?.picture).toBe(theirs);
  expect(drawings[1]?.picture).not.toBe(theirs);
  await elsewhere.close();
});

test('a step the server will never take is set aside with its reason, and its neighbours go through', async ({ page, app }) => {
  const id = await makeProject(app.url, SMALL, { drawings: 4, hold: 1 });
  await openStage(page, app.url, id, 'draw');
  await untilLaid(page);
  // A damaged picture among good ones: the server finds other pixels than were told.
  let damaged = '';
  await page.route('**/api/projects/*/steps', async (route) => {
    const body = route.request().postDataBuffer();
    if (damaged === '') damaged = /picture-([0-9a-f]{64})/.exec(body?.toString('latin1') ?? '')?.[1] ?? '';
    if (damaged !== '' && body?.includes(damaged))
      await route.fulfill({ status: 422, headers: { 'lime-tick': '1' }, json: { error: 'The picture was changed on the way.' } });
    else await route.continue();
  });
  for (const frame of [1, 2, 3]) {
    await goToFrame(page, frame);
    await stroke(page, LINE);
  }
  await expect(page.getByTestId('set-aside')).toHaveText('Set aside: 1', { timeout: 30_000 });
  await untilKept(page);
  await page.getByTestId('set-aside').click();
  await expect(page.getByText('The picture was changed on the way.').first()).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  expect((await download).suggestedFilename()).toMatch(/^set aside .*\.json$/);
  await page.unroute('**/api/projects/*/steps');
  await page.getByRole('button', { name: 'Use mine' }).click();
  await untilKept(page);
  for (const drawing of (await drawingsOf(app.url, id)).slice(0, 3)) expect(await inked(app.url, drawing.picture)).toBeGreaterThan(500);
  await expect(page.getByTestId('set-aside')).toHaveCount(0);
});

test('with the server stopped every stage still opens, says so, and finds it again by itself', async ({ page }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const id = await makeProject(first.url, SMALL, { drawings: 4, hold: 2 });
  await openStage(page, first.url, id, 'plan');
  await first.kill('SIGKILL');
  for (const stage of ['Draw', 'Check', 'Assemble', 'Hand over', 'Plan']) {
    const link = page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: new RegExp(`^${stage}`) });
    await link.click();
    await expect(link).toHaveAttribute('aria-current', 'page');
  }
  await page.keyboard.press('3');
  await expect(page.getByTestId('kept')).toContainText('safe in this browser', { timeout: 30_000 });
  await page.getByRole('link', { name: 'Shelf' }).click();
  await expect(page.getByText('Your project stays open here')).toBeVisible();
  const second = await startServer(folder, port);
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 60_000 });
  expect((await projectOnServer(second.url, id)).shots[0]?.levels[0]?.exposures[0]?.frames).toBe(3);
  await second.kill('SIGTERM');
});

test('a name with a character that can’t be stored is refused with a sentence, and what follows is saved', async ({ page, app }) => {
  const id = await makeProject(app.url, SMALL, { drawings: 2, hold: 12 });
  await openStage(page, app.url, id, 'plan');
  await page.getByRole('tab', { name: 'Shot and levels' }).click();
  const name = page.getByRole('textbox', { name: 'Name', exact: true }).first();
  await name.evaluate((field: HTMLInputElement) => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(field, 'Sock \ud83e');
    field.dispatchEvent(new Event('input', { bubbles: true }));
  });
  await name.press('Enter');
  await expect(page.getByText('A text holds a character that can’t be stored')).toBeVisible();
  await page.getByRole('grid').focus();
  await page.keyboard.press('3');
  await untilKept(page);
  expect((await projectOnServer(app.url, id)).shots[0]?.levels[0]?.exposures[0]?.frames).toBe(3);
});
