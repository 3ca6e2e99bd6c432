import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { newLevel, type Shot, wholeShot } from '../src/core/document/model';
import type { Step } from '../src/core/edit/step';
import { column, expect, openShot, openStage, test, untilKept } from './fixtures';
import { emptyProject, makeProject, pictureFile, pictureSvg, projectOnServer, sendSteps } from './projects';

const FILM = { title: 'Checked', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 48 };

const findingsOf = (page: Page) => page.getByRole('region', { name: 'Findings' });
const cardWith = (page: Page, words: string | RegExp) => findingsOf(page).getByRole('listitem').filter({ hasText: words });

test('several findings are fixed together after a look at what it does; one is kept as intended with a note that survives', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  const { shots } = await projectOnServer(app.url, projectId);
  const at = { shotId: shots[0]?.id ?? '', levelId: shots[0]?.levels[0]?.id ?? '' };
  const run = (index: number, frames: number) => ({ drawing: `d0-${index}`, frames });
  const gap = { drawing: null, frames: 1 };
  const runs = [
    run(0, 2),
    gap,
    run(1, 2),
    gap,
    run(2, 2),
    run(3, 2),
    run(4, 2),
    run(5, 1),
    run(6, 2),
    run(7, 2),
    run(8, 2),
    gap,
    run(9, 2),
    run(10, 2),
    run(11, 24),
  ];
  await sendSteps(app.url, projectId, [{ type: 'replaceRuns', ...at, startFrame: 0, removedFrames: 48, runs }]);
  await openStage(page, app.url, projectId, 'check');
  await expect(findingsOf(page).getByRole('heading', { name: '4 findings in 1 shot' })).toBeVisible();

  await cardWith(page, 'is held for one frame').getByRole('button', { name: 'Keep as intended' }).click();
  await page.getByLabel('Why it stays as it is').fill('a blink');
  await page.keyboard.press('Enter');
  await expect(findingsOf(page).getByRole('heading', { name: '3 findings in 1 shot' })).toBeVisible();

  await findingsOf(page).getByRole('button', { name: 'Fix all 3 gaps of one frame …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Fix all: gaps of one frame' });
  await expect(dialog.getByRole('listitem').filter({ hasText: 'Hold 9 over it' })).toBeVisible();
  await expect(dialog.getByText('1*3 2*3 … 9*3', { exact: false }).or(dialog.getByText(/1\*3 2\*3 3\*2/))).toBeVisible();
  await dialog.getByRole('button', { name: 'Fix 3' }).click();
  await expect(findingsOf(page).getByRole('heading', { name: 'No findings in 1 shot' })).toBeVisible();
  await expect.poll(() => column(page, 'Level 1')).toContain('1*3 2*3 3*2');
  await page.keyboard.press('Control+z');
  await expect(findingsOf(page).getByRole('heading', { name: '3 findings in 1 shot' })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await untilKept(page);

  await page.reload();
  await expect(findingsOf(page).getByRole('heading', { name: 'No findings in 1 shot' })).toBeVisible();
  await findingsOf(page).getByText('1 finding kept as intended').click();
  await expect(findingsOf(page).getByText('“a blink”')).toBeVisible();
  const download = page.waitForEvent('download');
  await findingsOf(page).getByRole('button', { name: 'Save list' }).click();
  const rows = (await readFile(await (await download).path(), 'utf8')).trim().split('\r\n');
  expect(rows).toHaveLength(2);
  expect(rows[1]).toMatch(/^Slips in the timing,stray,010,Level 1,13,13,.*kept as intended,a blink$/);
  await findingsOf(page).getByRole('button', { name: 'Reopen' }).click();
  await expect(findingsOf(page).getByRole('heading', { name: '1 finding in 1 shot' })).toBeVisible();
});

test('pictures that are nearly the same are found with what differs, and a picture that is gone is told', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, { ...FILM, frames: 12 });
  const { shots } = await projectOnServer(app.url, projectId);
  const at = { shotId: shots[0]?.id ?? '', levelId: shots[0]?.levels[0]?.id ?? '' };
  const body = '<ellipse cx="160" cy="90" rx="70" ry="50" fill="#c4553a" stroke="#1d2a23" stroke-width="4"/>';
  const svgOf = (inside: string) => `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="180">${inside}</svg>`;
  const pictures = await Promise.all(
    [body, body.replace('#c4553a', '#c5563a'), body.replace('cx="160"', 'cx="170"')].map((inside) => pictureFile(svgOf(inside), FILM.size)),
  );
  const steps = pictures.flatMap((picture, index) => [
    {
      type: 'addDrawing' as const,
      ...at,
      index,
      drawing: { id: `d${index}`, number: String(index + 1), role: 'inbetween' as const, picture: picture.digest },
    },
    { type: 'expose' as const, ...at, drawingId: `d${index}`, startFrame: index * 4, frames: 4 },
  ]);
  await sendSteps(app.url, projectId, steps, pictures);
  await openStage(page, app.url, projectId, 'check');
  const near = cardWith(page, 'Level 1 · 1 and 2 are nearly the same and follow each other');
  await expect(near).toBeVisible();
  await expect(findingsOf(page).getByRole('heading', { name: '1 finding in 1 shot' })).toBeVisible();
  await near.getByRole('button', { name: 'See what differs' }).click();
  await expect(page.getByRole('img', { name: 'Where the two pictures differ' })).toBeVisible();
  await page.keyboard.press('Escape');
  await near.getByRole('button', { name: 'Hold 1 over both and delete 2' }).click();
  await expect.poll(() => column(page, 'Level 1')).toBe('1*8 3*4');
  await expect(findingsOf(page).getByRole('heading', { name: 'No findings in 1 shot' })).toBeVisible();
  await untilKept(page);

  // The store loses a picture: the checks say so, and everything else goes on.
  const lost = pictures[2]?.digest ?? '';
  await page.route('**/api/pictures?*', async (route) => {
    const url = new URL(route.request().url());
    const digests = (url.searchParams.get('digests') ?? '').split('.');
    if (!digests.includes(lost)) return route.continue();
    const parts = await Promise.all(
      digests.map(async (digest) => {
        if (digest === lost) return Buffer.alloc(4);
        return Buffer.from(await (await fetch(`${app.url}/api/pictures?digests=${digest}`)).arrayBuffer());
      }),
    );
    return route.fulfill({ body: Buffer.concat(parts), contentType: 'application/octet-stream', headers: { 'lime-tick': '1' } });
  });
  await page.reload();
  const gone = cardWith(page, 'The picture of Level 1 · 3 is not in the store');
  await expect(gone).toBeVisible();
  await expect(page.getByRole('button', { name: 'Draw to Check: counts disagree. Show why' })).toBeVisible();
  await gone.getByRole('button', { name: 'Make 3 an empty drawing, to be drawn again' }).click();
  await expect(gone).toHaveCount(0);
  await expect(cardWith(page, 'has 1 drawing planned and not drawn yet: 3')).toBeVisible();
});

test('the player plays backwards, once, slower and lighter, by the true rate and says so', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'check');
  const now = page.getByTestId('frame-now');
  await page.getByLabel('Plays').selectOption('once');
  await page.keyboard.press('End');
  await expect(now).toHaveText('48');
  // There is no frame after the last: one step back is the one before it.
  await page.getByRole('button', { name: 'Frame after' }).click();
  await page.getByRole('button', { name: 'Frame before' }).click();
  await expect(now).toHaveText('47');
  await page.getByRole('button', { name: 'Frame after' }).click();
  await expect(now).toHaveText('48');
  await page.keyboard.press('Shift+Space');
  await expect.poll(async () => Number(await now.textContent())).toBeLessThan(40);
  await expect(now).toHaveText('1', { timeout: 15_000 });
  await expect(page.getByText('48 frames played, every one in its own time.').or(page.getByText(/of 48 frames were late/))).toBeVisible();

  await page.getByRole('radio', { name: '¼×' }).click();
  await page.getByRole('button', { name: 'Lighter: half size, every second frame' }).click();
  await page.getByRole('button', { name: 'Play forwards' }).click();
  await expect(page.getByText('Lighter: half size, every second frame', { exact: true })).toBeVisible();
  await expect.poll(async () => Number(await now.textContent())).toBeGreaterThan(4);
  const frames = new Set<number>();
  for (let look = 0; look < 20; look++) {
    frames.add(Number(await now.textContent()));
    await page.waitForFunction(() => new Promise((resolve) => requestAnimationFrame(() => resolve(true))));
  }
  expect([...frames].filter((frame) => frame % 2 === 0)).toEqual([]);
  await page.getByRole('button', { name: 'Stop playing' }).click();
  await expect(page.getByText(/(played|late on this machine) at 1\/4 of the true rate, half size and every second frame/)).toBeVisible();

  await page.keyboard.press('Alt+u');
  await page.keyboard.press('Alt+w');
  await expect(page.getByRole('button', { name: 'Leave the full window' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Leave the full window' })).toHaveCount(0);
});

test('with a slow compositor frames are late, counted and shown where they were, and the clock goes on', async ({ page, app }) => {
  // From when it is told to, every message to a worker is held back: composites come slower than they are due.
  await page.addInitScript(() => {
    const post = Worker.prototype.postMessage;
    Worker.prototype.postMessage = function (this: Worker, ...message: Parameters<typeof post>) {
      const slow = (window as Window & { slowMilliseconds?: number }).slowMilliseconds ?? 0;
      if (slow === 0) post.apply(this, message);
      else setTimeout(() => post.apply(this, message), slow);
    } as typeof post;
  });
  const projectId = await makeProject(app.url, { ...FILM, frames: 240 }, { drawings: 240, hold: 1 });
  await openStage(page, app.url, projectId, 'check');
  await expect(page.getByRole('grid')).toBeVisible();
  await page.keyboard.press('Space');
  await expect.poll(async () => Number(await page.getByTestId('frame-now').textContent())).toBeGreaterThan(3);
  await page.evaluate(() => {
    (window as Window & { slowMilliseconds?: number }).slowMilliseconds = 2500;
  });
  await expect(page.getByTestId('late')).toHaveText(/^[1-9]\d* of \d+ late$/, { timeout: 20_000 });
  // Frame and time are read in one go: what the test runner waits for must not count.
  const readClock = () =>
    page.evaluate(() => ({
      frame: Number(document.querySelector('[data-testid="frame-now"]')?.textContent),
      milliseconds: performance.now(),
    }));
  const start = await readClock();
  await expect.poll(async () => ((await readClock()).frame - start.frame + 240) % 240).toBeGreaterThan(24);
  const end = await readClock();
  // Late pictures never slow the clock: a second is 24 frames.
  const due = ((end.milliseconds - start.milliseconds) * 24) / 1000;
  expect(Math.abs(((end.frame - start.frame + 240) % 240) - (due % 240))).toBeLessThan(10);
  await page.keyboard.press('Space');
  const report = page.getByText(/frames were late on this machine/);
  const first = Number(await report.getByRole('button').first().textContent());
  await report.getByRole('button').first().click();
  await expect(page.getByTestId('frame-now')).toHaveText(String(first));
});

test('a destination says what it refuses; colours are held in what leaves and the drawings stay', async ({ page, app }) => {
  await openStage(page, app.url, 'kettle', 'check');
  await page.getByRole('button', { name: 'What is checked' }).click();
  await page.getByLabel('It goes to').selectOption('broadcast-25');
  await page.keyboard.press('Escape');
  await expect(cardWith(page, 'Broadcast, 25 takes 25 frames a second; the film runs at 12.')).toBeVisible();
  const colours = cardWith(page, 'takes red, green and blue from 5 to 246');
  await expect(colours).toContainText('the white paper (255)');
  await colours.getByRole('button', { name: /^Hold colours within 5–246/ }).click();
  await expect(colours).toHaveCount(0);
  await untilKept(page);
  const digests = (await projectOnServer(app.url, 'kettle')).shots.flatMap((shot) =>
    shot.levels.flatMap((level) => level.drawings.map(({ picture }) => picture)),
  );
  await page
    .getByRole('button', { name: 'Broadcast, 25' })
    .or(page.getByRole('button', { name: 'What is checked' }))
    .first()
    .click();
  await page.getByLabel('Marked on the still picture').selectOption('5-246');
  await page.keyboard.press('Escape');
  await expect(page.getByText('0.0 % of this picture outside 5–246')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^[1-9]\d*\.\d % of this picture outside 5–246$/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await untilKept(page);
  expect(
    (await projectOnServer(app.url, 'kettle')).shots.flatMap((shot) =>
      shot.levels.flatMap((level) => level.drawings.map(({ picture }) => picture)),
    ),
  ).toEqual(digests);
});

test('flashes faster than the published limit are told, and gone to as the loop that shows the worst second', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  const { shots } = await projectOnServer(app.url, projectId);
  const at = { shotId: shots[0]?.id ?? '', levelId: shots[0]?.levels[0]?.id ?? '' };
  const cards = await Promise.all(
    ['#101010', '#f4f4f4'].map((colour) =>
      pictureFile(
        `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="180"><rect width="320" height="180" fill="${colour}"/></svg>`,
        FILM.size,
      ),
    ),
  );
  const runs = Array.from({ length: 24 }, (_, index) => ({ drawing: `d${index % 2}`, frames: 2 }));
  const adds = cards.map((card, index) => ({
    type: 'addDrawing' as const,
    ...at,
    index,
    drawing: { id: `d${index}`, number: String(index + 1), role: 'inbetween' as const, picture: card.digest },
  }));
  await sendSteps(app.url, projectId, [...adds, { type: 'replaceRuns', ...at, startFrame: 0, removedFrames: 0, runs }], cards);
  await openStage(page, app.url, projectId, 'check');
  // A change every other frame at 24 a second: 13 changes from the first to the last of a second are six flashes.
  const flashes = cardWith(page, 'It flashes 6 times within a second, shot 010, frames 3 to 25, over up to 100 % of the field');
  await expect(flashes).toBeVisible();
  await flashes.getByRole('button', { name: 'Go there' }).click();
  await expect(page.getByRole('button', { name: 'Loop 3–25' })).toBeVisible();
  await page.getByLabel('Plays').selectOption('several');
  await page.getByLabel('How many times').fill('2');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Play forwards' }).click();
  await expect(page.getByText(/^46 frames played|of 46 frames were late/)).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('button', { name: 'Play forwards' })).toBeVisible();
});

test('graphs show the movement of the chosen level, and a press goes to its frame', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'check');
  await openShot(page, '020');
  const graphs = page.getByRole('region', { name: 'Graphs' });
  // Every picture of the film is looked at first.
  await expect(graphs.locator('.recharts-line-dot').first()).toBeVisible({ timeout: 40_000 });
  await expect(page.getByRole('img', { name: 'The path of the drawing’s centre' })).toBeVisible();
  const dots = graphs.locator('.recharts-line-dot');
  const box = await dots.nth(9).boundingBox();
  if (!box) throw new Error('There is no point on the graph.');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await expect(graphs.getByText(/px a frame, .* to the next/)).toBeVisible();
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByTestId('frame-now')).not.toHaveText('1');
  const shown = Number(await page.getByTestId('frame-now').textContent());
  await expect(page.getByRole('gridcell', { name: new RegExp(`^Sock, .*frames? ${shown}\\b`) })).toBeVisible();
  // Where one is stands on the graph, at the point that was pressed, and follows a step.
  const markedPx = async () => {
    const mark = await graphs.getByTestId('now-in-graph').boundingBox();
    return mark ? mark.x + mark.width / 2 : Number.NaN;
  };
  expect(Math.abs((await markedPx()) - (box.x + box.width / 2))).toBeLessThan(2);
  const before = await markedPx();
  await page.keyboard.press('ArrowDown');
  await expect.poll(markedPx).toBeGreaterThan(before);
  await graphs.getByRole('radio', { name: 'Size' }).click();
  await expect(graphs.getByText('compared with Sock 1')).toBeVisible();
  await graphs.getByRole('radio', { name: 'Lengths' }).click();
  await expect(graphs.locator('.recharts-bar-rectangle').first()).toBeVisible();
  await graphs.getByRole('radio', { name: 'Drawings a second' }).click();
  await expect(graphs.getByText(/^Most in second/)).toBeVisible();
});

test('a film of many shots is told to whoever checks it in parts: every shot is checked, the last as well, and an edit is checked again', async ({
  page,
  app,
}) => {
  const SHOTS = 130;
  const projectId = await emptyProject(app.url, { ...FILM, frames: 7 });
  const pictures = await Promise.all([0, 1].map((index) => pictureFile(pictureSvg(index, 0, FILM.size), FILM.size)));
  const shotOf = (number: number): Shot => {
    const drawings = pictures.map(({ digest }, index) => ({
      id: `s${number}d${index}`,
      number: String(index + 1),
      role: 'key' as const,
      picture: digest,
    }));
    const [first, second] = drawings.map(({ id }) => ({ drawing: id, frames: 3 }));
    if (!first || !second) throw new Error('A shot has two drawings.');
    const level = { ...newLevel(`s${number}l`, 'Ink'), drawings, exposures: [first, { drawing: null, frames: 1 }, second] };
    return { id: `s${number}`, code: `${number}`, name: '', note: '', frames: 7, levels: [level], notes: [], sounds: [] };
  };
  const steps = Array.from({ length: SHOTS }, (_, index): Step => {
    const shot = shotOf(1000 + index);
    return { type: 'addShot', index: index + 1, shot, items: [{ item: wholeShot(shot.id), index: index + 1 }] };
  });
  await sendSteps(app.url, projectId, steps, pictures);
  await openStage(page, app.url, projectId, 'check');
  await expect(findingsOf(page).getByRole('heading', { name: `${SHOTS} findings in ${SHOTS + 1} shots` })).toBeVisible();
  const last = `s${1000 + SHOTS - 1}`;
  const filled = { type: 'replaceRuns', shotId: last, levelId: `${last}l`, startFrame: 3, removedFrames: 1 } as const;
  await sendSteps(app.url, projectId, [{ ...filled, runs: [{ drawing: `${last}d0`, frames: 1 }] }]);
  await expect(findingsOf(page).getByRole('heading', { name: `${SHOTS - 1} findings in ${SHOTS + 1} shots` })).toBeVisible();
});
