import type { Page } from '@playwright/test';
import { expectReadable, outOfReach } from './everybody';
import { expect, openShot, openStage, test } from './fixtures';

/** A large screen, a small laptop, an upright tablet, a low window, and pages zoomed for their text to 150, 200 and 400 %. */
const SIZES = [
  [2560, 1440],
  [1920, 1080],
  [1024, 768],
  [820, 1180],
  [1280, 480],
  [853, 533],
  [640, 400],
  [320, 640],
] as const;
/** Those at which panels stand otherwise than at 1280. */
const READ_AT: readonly number[] = [2560, 1920, 1024, 320];

type Look = { readonly colorScheme?: 'dark'; readonly contrast?: 'more' };
const DAY_AND_NIGHT: readonly Look[] = [{}, { colorScheme: 'dark' }];
/** More contrast changes the same few colours everywhere. */
const ALL_LOOKS: readonly Look[] = [...DAY_AND_NIGHT, { contrast: 'more' }, { colorScheme: 'dark', contrast: 'more' }];

async function expectReadableAtEverySize(page: Page, looks: readonly Look[]): Promise<void> {
  // Colours still on their way from one theme to the other are none to be measured.
  for (const [index, media] of looks.entries()) {
    await page.emulateMedia({ reducedMotion: 'reduce', colorScheme: 'light', contrast: 'no-preference', ...media });
    await expectReadable(page, JSON.stringify(media), index > 0 ? { colours: 'alone' } : {});
  }
  await page.emulateMedia({ colorScheme: 'light', contrast: 'no-preference' });
  for (const [width, height] of SIZES) {
    await page.setViewportSize({ width, height });
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    await expect.poll(() => outOfReach(page), `${width} x ${height}`).toEqual([]);
    if (READ_AT.includes(width)) await expectReadable(page, `${width} x ${height}`, { colours: 'not' });
  }
}

for (const stage of ['plan', 'draw', 'check', 'assemble', 'hand-over']) {
  test(`${stage} can be read and worked by everyone at every size, and asks nothing of the network`, async ({ page, app }) => {
    const foreign: string[] = [];
    page.on('request', (request) => {
      if (!request.url().startsWith(app.url) && !request.url().startsWith('blob:') && !request.url().startsWith('data:'))
        foreign.push(request.url());
    });
    await openStage(page, app.url, 'washday', stage);
    await openShot(page, '020');
    await expectReadableAtEverySize(page, stage === 'plan' ? ALL_LOOKS : DAY_AND_NIGHT);
    expect(foreign).toEqual([]);
  });
}

for (const [name, path] of [
  ['the shelf', ''],
  ['the store', '/store'],
  ['the past', '/projects/washday/past'],
  ['the counting desk', '/counting-desk'],
  ['an address that leads nowhere', '/nowhere'],
] as const)
  test(`${name} can be read by everyone at every size`, async ({ page, app }) => {
    await page.goto(app.url + path);
    await expect(page.getByRole('heading').first()).toBeVisible();
    await expectReadableAtEverySize(page, DAY_AND_NIGHT);
  });

test('the night theme is chosen on the shelf and stays', async ({ page, app }) => {
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  const groundOf = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const day = await groundOf();
  await page.getByRole('radio', { name: 'Night' }).click();
  expect(await groundOf()).not.toBe(day);
  // It is so from the first moment of the next visit.
  await page.reload();
  expect(await groundOf()).not.toBe(day);
  await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  await page.getByRole('radio', { name: 'Day' }).click();
  expect(await groundOf()).toBe(day);
});

test('Assemble places shots by number, and follows a new order', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'assemble');
  const reel = page.getByRole('listbox', { name: 'Reel' });
  await expect(reel.getByRole('option', { name: '020, The sock drops, reel frames 61 to 156, whole' })).toBeVisible();
  await expect(page.getByText('312 frames at 24 = 13 s exactly')).toBeVisible();
  await page.getByRole('tab', { name: 'Item' }).click();
  await page.getByRole('button', { name: 'Later' }).click();
  await page.getByRole('tab', { name: 'Reel' }).click();
  await expect(reel.getByRole('option', { name: '010, Line in the wind, reel frames 97 to 156, its frames 1 to 60 of 72' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(reel.getByRole('option', { name: '010, Line in the wind, reel frames 1 to 60, its frames 1 to 60 of 72' })).toBeVisible();
});

test('a loop plays its range over and over, and stops where it is told', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'check');
  await openShot(page, '020');
  for (let frame = 1; frame < 5; frame++) await page.keyboard.press('ArrowDown');
  for (let frame = 0; frame < 3; frame++) await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: 'Loop 5–8' })).toBeVisible();
  await page.keyboard.press('Space');
  const seen = new Set<string>();
  // Looked at in steps that don't go into the loop's six rounds a second: else the same frame would be seen again and again.
  await expect
    .poll(
      async () => {
        seen.add((await page.getByTestId('frame-now').textContent()) ?? '');
        return [...seen].sort().join(' ');
      },
      { intervals: [37] },
    )
    .toBe('5 6 7 8');
  await page.keyboard.press('Space');
  const stopped = await page.getByTestId('frame-now').textContent();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  expect(await page.getByTestId('frame-now').textContent()).toBe(stopped);
});

test('help opens at the stage one is on, finds words and commands, and leads through the demo card by card', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'Open the demo' }).click();
  const tour = page.getByRole('complementary', { name: 'Ten minutes with Washday' });
  await expect(tour).toContainText('1 of 8 · Plan');
  for (const card of ['2 of 8 · Plan', '3 of 8 · Plan', '4 of 8 · Draw']) {
    await tour.getByRole('button', { name: 'Next' }).click();
    await expect(tour).toContainText(card);
  }
  await expect(page).toHaveURL(/\/draw\?shot=020&frame=32$/);
  // It is there again after a reload, and gone once it is left.
  await page.reload();
  await expect(tour).toContainText('4 of 8 · Draw');
  await tour.getByRole('button', { name: 'Leave the tour' }).click();
  await expect(tour).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('button', { name: 'New drawing' })).toBeVisible();
  await expect(tour).toHaveCount(0);

  await page.keyboard.press('F1');
  const help = page.getByRole('dialog', { name: 'Help' });
  await expect(help.getByRole('heading', { name: 'Draw' })).toBeVisible();
  await page.keyboard.type('receipt');
  await expect(help.getByText(/The receipt holds what was asked beside what was counted/)).toBeVisible();
  await help.getByLabel('Find in the help, and among commands').fill('hold');
  await expect(help.getByRole('heading', { name: 'Commands' })).toBeVisible();
  await help.getByLabel('Find in the help, and among commands').fill('zeppelin');
  await expect(help.getByText('Nothing found for “zeppelin”.')).toBeVisible();
  await expectReadable(page, 'help');
  await help.getByRole('button', { name: 'Close' }).click();
  await expect(help).toHaveCount(0);
  await page.keyboard.press('Shift+?');
  await help.getByRole('button', { name: 'Ten minutes with Washday' }).click();
  await expect(tour).toContainText('1 of 8 · Plan');
  await expect(page).toHaveURL(/\/plan\?shot=010&frame=1$/);
});

test('the paper alone has what room there is, on little windows too', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'draw');
  await page.getByRole('button', { name: 'Paper alone' }).click();
  for (const [width, height] of [
    [1280, 800],
    [1280, 480],
    [640, 400],
    [320, 640],
  ] as const) {
    await page.setViewportSize({ width, height });
    // Paper, tools and clock are all of it, and nothing is scrolled to.
    await expect
      .poll(() => page.locator('main').evaluate((main) => main.clientHeight), `${width} x ${height}`)
      .toBeGreaterThan(height * 0.6);
    await expect(page.getByTestId('frame-now')).toBeInViewport();
    await expect(page.getByRole('button', { name: 'Paper alone' })).toBeInViewport();
  }
});

test('panels are made wider and folded by keys, and stay so', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'draw');
  const grid = page.getByRole('grid');
  const widthOf = async () => (await grid.boundingBox())?.width ?? 0;
  const before = await widthOf();
  await page.getByRole('separator', { name: 'Width of the left panel' }).focus();
  for (let press = 0; press < 2; press++) await page.keyboard.press('ArrowRight');
  await expect.poll(widthOf).toBeGreaterThan(before + 50);
  const wider = await widthOf();
  const levels = page.getByRole('region', { name: 'Levels' });
  await expect(levels).toBeInViewport();
  await page.keyboard.press('Alt+9');
  await expect(levels).not.toBeInViewport();
  await page.reload();
  await expect(grid).toBeVisible();
  await expect.poll(widthOf).toBeCloseTo(wider, 0);
  await expect(levels).not.toBeInViewport();
  await page.keyboard.press('Alt+9');
  await expect(levels).toBeInViewport();
  // Upright there are no panels beside each other, and what is asked of them says so.
  await page.setViewportSize({ width: 820, height: 1180 });
  await expect(page.getByRole('separator', { name: 'Width of the left panel' })).toHaveCount(0);
  await expect(grid).toBeVisible();
});
