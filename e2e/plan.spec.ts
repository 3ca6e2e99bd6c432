import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { column, expect, goToFrame, openStage, test, untilKept } from './fixtures';
import { emptyProject, makeProject } from './projects';

/** What a screen reader would call the element that has the focus. */
const focusedName = (page: Page) =>
  page.evaluate(() => {
    const element = document.activeElement;
    if (!(element instanceof HTMLElement)) return '';
    const labels = 'labels' in element ? [...((element as HTMLInputElement).labels ?? [])].map((label) => label.textContent) : [];
    return (element.getAttribute('aria-label') ?? labels[0] ?? element.textContent ?? '').trim();
  });

/** Goes on with Tab until what is named so has the focus, as whoever works without a mouse does. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let press = 0; press < 120; press++) {
    await page.keyboard.press('Tab');
    if (name.test(await focusedName(page))) return;
  }
  throw new Error(`Nothing named ${name} can be reached with Tab.`);
}

/** Goes right within a group until what is named so has the focus: the group moves the focus a moment after each press. */
async function rightTo(page: Page, name: RegExp): Promise<void> {
  for (let press = 0; press < 40; press++) {
    const before = await focusedName(page);
    if (name.test(before)) return;
    await page.keyboard.press('ArrowRight');
    await expect.poll(() => focusedName(page)).not.toBe(before);
  }
  throw new Error(`Nothing named ${name} can be reached with the arrow keys.`);
}

/** The whole column of a level, scrolled through: a sheet makes only the rows in sight. */
async function wholeColumn(page: Page, level: string): Promise<string> {
  const found = new Map<number, string>();
  const take = async () => {
    const cells = await page
      .getByRole('grid')
      .getByRole('gridcell', { name: new RegExp(`^${level}, `) })
      .evaluateAll((elements) =>
        elements.map(
          (element) => [element.id, `${element.getAttribute('data-drawing') ?? '.'}*${element.getAttribute('aria-rowspan')}`] as const,
        ),
      );
    for (const [id, text] of cells) found.set(Number(id.split('-').at(-1)), text);
  };
  for (const key of ['Home', 'End']) {
    await page.keyboard.press(key);
    await page.waitForFunction((atEnd) => (document.querySelector('[role=grid]')?.scrollTop ?? 0) > 0 === atEnd, key === 'End');
    await expect(page.getByRole('gridcell').first()).toBeVisible();
    await take();
  }
  return [...found]
    .sort(([a], [b]) => a - b)
    .map(([, text]) => text)
    .join(' ');
}

const letters = (number: string, count: number, frames: number) =>
  Array.from({ length: count }, (_, index) => `${number}${String.fromCharCode(97 + index)}*${frames}`).join(' ');

test('a 96-frame shot is planned from nothing by keyboard alone', async ({ page, app }) => {
  await page.goto(app.url);
  await tabTo(page, /^New project/);
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Title')).toBeFocused();
  await page.keyboard.type('Leaf');
  await tabTo(page, /^Length of the first shot/);
  await page.keyboard.press('Control+a');
  await page.keyboard.type('6+00');
  await expect(page.getByText('96 frames at 24 = 4 s exactly · 00:00:04:00 · 6+00 ft')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/plan(\?|$)/);
  await expect(page.getByRole('grid')).toBeVisible();

  // Three keys, on 1, 13 and 37.
  await page.keyboard.press('Shift+N');
  await goToFrame(page, 13);
  await page.keyboard.press('Shift+N');
  await goToFrame(page, 37);
  await page.keyboard.press('Shift+N');
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 .*10 2*2 .*22 3*2 .*58');

  // A chart as it is offered, then one slow at both ends.
  await page.keyboard.press('Home');
  await page.keyboard.press('t');
  await expect(page.getByLabel('What it will do')).toContainText('5 in-betweens on twos: 1a, 1b, 1c, 1d, 1e');
  await page.keyboard.press('Enter');
  await goToFrame(page, 13);
  await page.keyboard.press('t');
  await tabTo(page, /^even$/);
  await rightTo(page, /^slow at both$/);
  await page.keyboard.press('Space');
  await tabTo(page, /^Put on the sheet$/);
  await page.keyboard.press('Enter');
  await expect.poll(() => wholeColumn(page, 'Level 1')).toBe(`1*2 ${letters('1', 5, 2)} 2*2 ${letters('2', 11, 2)} 3*2 .*58`);
  await goToFrame(page, 13);
  await expect(page.getByText('Timing chart 2 → 3')).toBeVisible();
  await expect(page.getByText(/11 in-betweens, keys on 13 and 37, slow at both/)).toBeVisible();

  // Ones in the middle of the twos, with their time kept, and a hold to the end.
  await goToFrame(page, 25);
  for (let press = 0; press < 3; press++) await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('Shift+Digit1');
  await goToFrame(page, 37);
  await page.keyboard.press('Shift+H');
  await page.keyboard.press('Enter');
  const planned = `1*2 ${letters('1', 5, 2)} 2*2 ${letters('2', 5, 2)} 2f*1 2l*1 2g*1 2m*1 2h*2 2i*2 2j*2 2k*2 3*60`;
  await expect.poll(() => wholeColumn(page, 'Level 1')).toBe(planned);

  // A cycle on a second level.
  await page.keyboard.press('Shift+L');
  await page.keyboard.press('Home');
  for (let drawing = 0; drawing < 3; drawing++) await page.keyboard.press('n');
  await page.keyboard.press('Home');
  for (let press = 0; press < 5; press++) await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('y');
  await expect(page.getByLabel('What it will do')).toContainText('Cycle to 96 frames');
  await tabTo(page, /^Cycle$/);
  await page.keyboard.press('Enter');
  const cycle = Array.from({ length: 16 }, () => '1*2 2*2 3*2').join(' ');
  await expect.poll(() => wholeColumn(page, 'Level 2')).toBe(cycle);

  // Played before anything is drawn.
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect.poll(async () => Number(await page.getByTestId('frame-now').textContent())).toBeGreaterThan(8);
  await page.keyboard.press('Space');

  // 24 to 25 with the time kept, and back.
  await page.keyboard.press('Alt+r');
  await expect(page.getByRole('dialog').getByTestId('before-after')).toContainText('20 ms');
  await tabTo(page, /^Change the rate$/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('timer')).toContainText('of 100');
  await expect(page.getByRole('contentinfo')).toContainText('25 fps');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('timer')).toContainText('of 96');
  await expect.poll(() => wholeColumn(page, 'Level 1')).toBe(planned);
  await expect.poll(() => wholeColumn(page, 'Level 2')).toBe(cycle);

  await page.keyboard.press('Control+p');
  await tabTo(page, /^Print as PDF$/);
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  const text = execFileSync('pdftotext', ['-layout', await (await download).path(), '-'], { encoding: 'utf8' });
  expect(text).toContain('Leaf, shot 010');
  expect(text).toContain('96 frames at 24/1 = 4.000 s, 00:00:04:00, 6+00 ft');
  expect(text).toContain('Level 1 · 2 to 3');
  await untilKept(page);
});

test('a tick of a chart is moved: the spacing changes, the sheet does not; read back, the sheet says where', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'plan');
  await page
    .getByRole('banner')
    .getByRole('button', { name: /^Shot \d/ })
    .click();
  await page.getByRole('listbox', { name: 'Shots' }).getByRole('option', { name: /^020/ }).click();
  await goToFrame(page, 28);
  const before = await column(page, 'Sock');
  const tick = page.getByRole('slider', { name: 'In-between 11' });
  await expect(tick).toHaveAttribute('data-place', '1/5');
  await tick.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(tick).toHaveAttribute('data-place', '17/60');
  await expect.poll(() => column(page, 'Sock')).toBe(before);
  await page.getByRole('button', { name: 'Read from sheet' }).click();
  await expect(tick).toHaveAttribute('data-place', '1/2');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(tick).toHaveAttribute('data-place', '1/5');
});

test('a way is drawn on the board, and the marker goes along it by the chart', async ({ page, app }) => {
  const projectId = await makeProject(
    app.url,
    { title: 'Way', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 },
    { drawings: 5, hold: 2 },
  );
  await openStage(page, app.url, projectId, 'plan');
  await page.keyboard.press('k');
  await goToFrame(page, 9);
  await page.keyboard.press('k');
  await page.keyboard.press('Home');
  await page.getByRole('button', { name: 'Draw the motion path' }).click();
  const board = await page.getByTestId('path-board').boundingBox();
  if (!board) throw new Error('There is no board.');
  await page.mouse.move(board.x + board.width * 0.1, board.y + board.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(board.x + board.width * 0.9, board.y + board.height * 0.5, { steps: 12 });
  await page.mouse.up();
  await goToFrame(page, 5);
  await expect(page.getByTestId('path-words')).toHaveText('Level 1 · 3, frames 5–6, 1/2 of the way, midway');
  await untilKept(page);
});

test('numbers from a spreadsheet are pasted, rubbish is refused with its place, and a block is copied to another shot', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(
    app.url,
    { title: 'Paste', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 },
    { drawings: 4, hold: 2 },
  );
  await openStage(page, app.url, projectId, 'plan');
  await page.getByRole('radio', { name: 'Cover the rest' }).click();
  const pasteText = (text: string) =>
    page.evaluate((words) => {
      const data = new DataTransfer();
      data.setData('text/plain', words);
      document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  await pasteText('4\n4\n\n3\n7\n');
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^4\*3 3\*1 7\*1 3\*1 4\*2 1\*2/);
  await pasteText('1\t2\n1');
  await expect(page.getByText('Row 2 has 1 column and another has 2')).toBeVisible();
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^4\*3 3\*1 7\*1/);

  const copied = await page.evaluate(() => {
    const data = new DataTransfer();
    document.dispatchEvent(new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true }));
    return data.getData('text/plain');
  });
  expect(copied).toBe('4\n4\n4');
  await page.keyboard.press('Alt+n');
  await expect(page.getByRole('banner').getByRole('button', { name: /^Shot 020/ })).toBeVisible();
  await pasteText(copied);
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^4\*3 \./);
  await untilKept(page);
});

test('the sheet goes out as CSV and back, and a sheet that makes no sense changes nothing', async ({ page, app }) => {
  const projectId = await makeProject(
    app.url,
    { title: 'Table', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 8 },
    { drawings: 4, hold: 2 },
  );
  await openStage(page, app.url, projectId, 'plan');
  const download = page.waitForEvent('download');
  await page.keyboard.press('Alt+e');
  const stream = await (await download).createReadStream();
  let text = '';
  for await (const chunk of stream) text += chunk;
  expect(text.split('\r\n').slice(0, 3)).toEqual(['frame,Level 1,notes,words,accents', '1,1,,,', '2,1,,,']);

  const give = async (csv: string) => {
    const chooser = page.waitForEvent('filechooser');
    await page.keyboard.press('Alt+i');
    await (await chooser).setFiles({ name: 'changed.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  };
  await give(text.replace('2,1,,,', '2,1,,,,what'));
  await expect(page.getByText(/changed\.csv: Row 3 has 6 columns, the heads have 5/)).toBeVisible();
  await give(text.replace('\r\n2,1,,,', '\r\n2,9,turns,,'));
  await expect(page.getByText('Row 3, column 2: Level 1 has no drawing 9')).toBeVisible();
  await page.getByRole('radio', { name: 'plan them' }).click();
  await page.getByRole('button', { name: 'Bring in' }).click();
  await expect.poll(() => column(page, 'Level 1')).toBe('1*1 9*1 2*2 3*2 4*2');
  await page.keyboard.press('Control+z');
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*2 3*2 4*2');

  // Changed in two places, of which one is taken: 2 is held longer, and what follows moves with it.
  await give(text.replace('\r\n5,3,,,\r\n6,3,', '\r\n5,2,,,\r\n6,3,').replace('\r\n8,4,', '\r\n8,1,'));
  const differs = page.getByRole('group', { name: 'What differs' });
  await expect(differs.getByRole('listitem')).toHaveText([
    'Level 1: 2 from frame 3 is held 3 frames instead of 2',
    'Level 1: 3 from frame 5 is held 1 frame instead of 2',
    'Level 1: 4 from frame 7 is held 1 frame instead of 2',
    'Level 1: 1 is new on frame 8',
  ]);
  await differs.getByRole('checkbox', { name: /^All of them/ }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('Nothing changes: the sheet says the same already.')).toBeVisible();
  await differs.getByRole('checkbox', { name: /^Level 1: 2 from/ }).focus();
  await page.keyboard.press('Space');
  await page.getByRole('button', { name: 'Bring in' }).click();
  await expect.poll(() => column(page, 'Level 1')).toBe('1*2 2*3 3*2 4*2');
  await untilKept(page);
});

test('shots are put in order, split, joined and made longer, with what moves said', async ({ page, app }) => {
  const projectId = await makeProject(
    app.url,
    { title: 'Order', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 },
    { drawings: 4, hold: 2 },
  );
  await openStage(page, app.url, projectId, 'plan');
  await page.getByRole('tab', { name: 'Shots' }).click();
  await goToFrame(page, 9);
  await page.keyboard.press('Alt+s');
  const codes = () =>
    page
      .getByRole('region', { name: 'Shots' })
      .getByLabel(/^Code of/)
      .evaluateAll((inputs) => inputs.map((input) => (input as HTMLInputElement).value));
  await expect.poll(codes).toEqual(['010', '020']);
  await page.keyboard.press('Alt+Shift+PageDown');
  await expect.poll(codes).toEqual(['020', '010']);
  await expect(
    page.getByText(
      /Shot 010 is now 2 of 2: 010 starts on 17, was 1; 020 starts on 1, was 9|020 starts on 1, was 9; 010 starts on 17, was 1/,
    ),
  ).toBeVisible();
  const length = page.getByLabel(/^Length of 020/);
  await length.fill('1s8');
  await expect(page.getByTestId('reel-total')).toContainText(
    '020: 16 → 32 frames; the reel goes from 24 frames to 40 frames; 010 starts on 33, was 17',
  );
  await length.press('Enter');
  await expect(page.getByTestId('reel-total')).toContainText('2 shots, 40 frames');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Alt+j');
  await expect.poll(codes).toEqual(['010']);
  await expect.poll(() => column(page, 'Level 1')).toMatch(/^1\*2 2\*2 3\*2 4\*2 1\*2/);
  await untilKept(page);
});

test('another picture size lays every drawing anew, and undo brings the old ones back', async ({ page, app }) => {
  const projectId = await makeProject(
    app.url,
    { title: 'Size', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 8 },
    { drawings: 4, hold: 2 },
  );
  await openStage(page, app.url, projectId, 'plan');
  await page.keyboard.press('Alt+f');
  await page.getByRole('radio', { name: /1280 × 720/ }).click();
  await expect(page.getByText('4 drawn pictures of 320 × 180 will be resized to 1280 × 720')).toBeVisible();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await untilKept(page);
  const sizeNow = async () =>
    ((await (await fetch(`${app.url}/api/projects/${projectId}`)).json()) as { project: { size: unknown } }).project.size;
  expect(await sizeNow()).toEqual({ width: 1280, height: 720 });
  await page.keyboard.press('Control+z');
  await untilKept(page);
  await expect.poll(sizeNow).toEqual({ width: 320, height: 180 });
});

test('an empty shot says how to begin; drawings are planned in one go, and the address brings shot and frame back', async ({
  page,
  app,
}) => {
  const projectId = await emptyProject(app.url, {
    title: 'Leaf',
    rate: { num: 24, den: 1 },
    size: { width: 320, height: 180 },
    frames: 40,
  });
  await openStage(page, app.url, projectId, 'plan');
  await expect(page.getByRole('heading', { name: 'Nothing on 010 yet' })).toBeVisible();
  // The one lime button beside the player's is the next thing to do.
  await page.getByRole('button', { name: 'Plan drawings …' }).focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Plan drawings' });
  await page.keyboard.type('24');
  await dialog.getByLabel('Keys, as 1, 9, 24').fill('1, 9 and 25');
  await expect(dialog.getByText('25 is to be a key, and is not among the drawings.')).toBeVisible();
  await dialog.getByLabel('Keys, as 1, 9, 24').fill('1, 9 and 24');
  await expect(dialog.getByText('Plan 24 drawings on Level 1, frames 1–48; the shot goes from 40 to 48 frames')).toBeVisible();
  // Enter does it from a choice, too.
  await dialog.getByRole('radio', { name: 'the shot gets longer' }).focus();
  await page.keyboard.press('Enter');
  await expect(dialog).toHaveCount(0);
  await expect.poll(() => wholeColumn(page, 'Level 1')).toBe(Array.from({ length: 24 }, (_, index) => `${index + 1}*2`).join(' '));
  await expect(page.getByRole('button', { name: '24', exact: true })).toBeVisible();

  await page.keyboard.press('Alt+p');
  await dialog.getByLabel(/^Or as the sheet writes it/).fill('1*4 .*2 30');
  await dialog.getByLabel('From frame').fill('49');
  await expect(dialog.getByText(/one that is there is shown again/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Plan them' }).click();
  await expect.poll(() => wholeColumn(page, 'Level 1')).toMatch(/24\*2 1\*4 \.\*2 30\*1$/);
  await untilKept(page);

  await goToFrame(page, 29);
  await expect(page).toHaveURL(/\?shot=010&frame=29$/);
  await expect(page).toHaveTitle('Leaf · 010 · Plan');
  await page.reload();
  await expect(page.getByRole('timer')).toContainText('29');
  await page.getByRole('link', { name: /^Draw/ }).click();
  await expect(page).toHaveTitle('Leaf · 010 · Draw');
  await expect(page).toHaveURL(/\/draw\?shot=010&frame=29$/);
});
