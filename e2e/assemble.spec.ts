import type { Page } from '@playwright/test';
import { newSound } from '../src/core/document/sound';
import { writeWav } from '../src/core/format/wav/writeWav';
import { expect, openShot, openStage, test, untilKept } from './fixtures';
import { emptyProject, makeProject, projectOnServer, sendSteps } from './projects';

const FILM = { title: 'Reel', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

/** Everything the list of the reel reads out, in order. */
const readOut = (page: Page) =>
  page
    .getByRole('listbox', { name: 'Reel' })
    .getByRole('option')
    .evaluateAll((options) => options.map((option) => option.getAttribute('aria-label')));

/** Where every item starts, by its name and number. */
const starts = async (page: Page) => (await readOut(page)).map((words) => words?.replace(/^([^,]*).*reel frames (\d+) to.*$/, '$1 $2'));

/** Runs a command by its words, through the finder. */
async function run(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill(words);
  await page.keyboard.press('Enter');
}

/** Answers the question that is open with a number. */
async function answer(page: Page, value: string): Promise<void> {
  const field = page.getByRole('dialog').getByRole('textbox');
  await expect(field).toBeFocused();
  await field.fill(value);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

/** A film of three shots of 24, 48 and 48 frames. */
async function threeShots(url: string): Promise<string> {
  const projectId = await makeProject(url, FILM, { drawings: 4, hold: 2 });
  const [shot] = (await projectOnServer(url, projectId)).shots;
  if (!shot) throw new Error('A new project has a shot.');
  await sendSteps(
    url,
    projectId,
    ['020', '030'].map((code, index) => ({
      type: 'addShot' as const,
      shot: { ...shot, id: `s${code}`, code, name: '', frames: 48, levels: [] },
      index: index + 1,
      items: [{ item: { id: `s${code}`, kind: 'shot' as const, finished: true, shotId: `s${code}`, trim: null }, index: index + 1 }],
    })),
  );
  return projectId;
}

test('a reel of three shots, a gap and a sound is built by the keyboard alone, and reads out every start', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'assemble');
  await expect.poll(() => starts(page)).toEqual(['010 1']);
  await page.keyboard.press('Alt+n');
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25']);
  await page.keyboard.press('Alt+n');
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 73']);
  // The item before is chosen, trimmed to its last 30 frames from the current one on, and starts as late as it is told to.
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(page.getByRole('option', { selected: true })).toHaveAttribute('aria-label', '020, reel frames 25 to 72, whole');
  await expect(page.getByTestId('frame-now')).toHaveText('25');
  for (let frame = 0; frame < 18; frame++) await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('shot-now')).toHaveText('020: 19 of 48');
  await page.keyboard.press('Alt+[');
  await expect
    .poll(() => readOut(page))
    .toEqual([
      '010, reel frames 1 to 24, whole',
      '020, reel frames 25 to 54, its frames 19 to 48 of 48',
      '030, reel frames 55 to 102, whole',
    ]);
  await page.keyboard.press('Alt+Shift+f');
  await answer(page, '37');
  await expect.poll(() => starts(page)).toEqual(['010 1', 'gap 25', '020 37', '030 67']);
  await expect(page.getByTestId('reel-says')).toHaveText(
    '020 starts on frame 37, was 25; 030 starts 12 frames later; the reel has 114 frames, was 102. You can undo it.',
  );
  await page.keyboard.press('Alt+ArrowRight');
  await expect.poll(() => starts(page)).toEqual(['010 1', 'gap 25', '030 37', '020 85']);
  await page.keyboard.press('Alt+ArrowLeft');
  await page.keyboard.press('Alt+Shift+d');
  await expect.poll(() => starts(page)).toEqual(['010 1', 'gap 25', '020 37', '020 67', '030 97']);
  await page.keyboard.press('Control+z');
  // A sound of the reel from its first frame on.
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Home');
  await page.keyboard.press('Alt+b');
  const wav = Buffer.from(writeWav([new Float32Array(24_000).fill(0.1)], 48_000, 'float32'));
  await (await chooser).setFiles([{ name: 'bell.wav', buffer: wav, mimeType: 'audio/wav' }]);
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('bell is heard on frames 1–12 of shot 010')).toBeVisible();
  await dialog.getByRole('radio', { name: 'Shot 010, moves with it' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(dialog.getByRole('radio', { name: 'The reel, stays' })).toBeFocused();
  await page.keyboard.press('Space');
  await expect(dialog.getByText('bell is heard on frames 1–12 of the reel')).toBeVisible();
  await dialog.getByRole('button', { name: 'Bring in' }).focus();
  await page.keyboard.press('Enter');
  await expect(
    page
      .getByRole('region', { name: 'Sounds on the reel' })
      .getByRole('button', { name: 'Sound bell of the reel, frames 1 to 12 of the reel' }),
  ).toBeVisible();
  await untilKept(page);
  const { reel } = await projectOnServer(app.url, projectId);
  expect(reel.items.map((item) => (item.kind === 'gap' ? item.frames : (item.trim ?? 'whole')))).toEqual([
    'whole',
    12,
    { fromFrame: 18, frames: 30 },
    'whole',
  ]);
  expect(reel.sounds.map(({ name, startFrame }) => [name, startFrame])).toEqual([['Bell', 0]]);
  await page.reload();
  await expect.poll(() => starts(page)).toEqual(['010 1', 'gap 25', '020 37', '030 67']);
});

test('keys of the sheet leave the sheet alone where it is not in sight, and Delete leaves items out of the reel', async ({ page, app }) => {
  const projectId = await threeShots(app.url);
  const before = (await projectOnServer(app.url, projectId)).shots;
  await openStage(page, app.url, projectId, 'assemble');
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 73']);
  for (const key of ['x', '3', 'b', 'k', 'Shift+j', 'Shift+n']) await page.keyboard.press(key);
  await page.keyboard.press('Delete');
  await expect.poll(() => starts(page)).toEqual(['020 1', '030 49']);
  await page.keyboard.press('Control+a');
  await expect(page.getByRole('option', { selected: true })).toHaveCount(2);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('option', { selected: true })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 73']);
  await page.keyboard.press('Alt+5');
  await expect(page.getByRole('button', { name: /^Hand over \d+ frames/ })).toBeVisible();
  for (const key of ['x', '3', 'Delete']) await page.keyboard.press(key);
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('remove exposure');
  const found = page.getByRole('option', { name: /^Remove/ });
  await expect(found.first()).toBeVisible();
  await page.getByPlaceholder('What do you want to do?').fill('remove');
  await expect(page.getByRole('option', { name: /^Remove shot 010/ })).toHaveAttribute('aria-selected', 'false');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: /^Remove exposure.*only on Plan, Draw and Check/ })).toBeDisabled();
  await page.keyboard.press('Escape');
  // On Plan the same key is the sheet's again.
  await page.keyboard.press('Alt+1');
  await expect(page.getByRole('grid', { name: /sheet/i })).toBeVisible();
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).shots).toEqual(before);
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await projectOnServer(app.url, projectId)).shots).not.toEqual(before);
});

test('items are dragged, trimmed and slipped by hand, and what moves is said while it lasts', async ({ page, app }) => {
  const projectId = await threeShots(app.url);
  await openStage(page, app.url, projectId, 'assemble');
  const block = (code: string) => page.getByRole('region', { name: 'Measure' }).getByRole('button', { name: new RegExp(`^${code}, reel`) });
  const measured = async (code: string) => {
    const box = await block(code).boundingBox();
    if (!box) throw new Error(`${code} is not in sight.`);
    return box;
  };
  // 120 frames in the width of 010's 24 five times over.
  const framePx = (await measured('020')).width / 48;
  const drag = async (x: number, y: number, frames: number, alt = false) => {
    await page.mouse.move(x, y);
    if (alt) await page.keyboard.down('Alt');
    await page.mouse.down();
    await page.mouse.move(x + frames * framePx, y, { steps: 6 });
  };
  const box = await measured('020');
  await drag(box.x + box.width - 3, box.y + 20, -8);
  await expect(page.getByTestId('reel-says')).toHaveText(
    '020: frames 1 to 40, 40 of 48; 030 starts 8 frames earlier; the reel has 112 frames, was 120',
  );
  await page.mouse.up();
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 65']);
  const trimmed = await measured('020');
  await drag(trimmed.x + trimmed.width / 2, trimmed.y + 20, -5, true);
  await expect(page.getByTestId('reel-says')).toContainText('020: frames 6 to 45, 40 of 48');
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect.poll(async () => (await readOut(page))[1]).toBe('020, reel frames 25 to 64, its frames 6 to 45 of 48');
  const last = await measured('030');
  await drag(last.x + 40, last.y + 20, -60);
  await expect(page.getByTestId('reel-says')).toHaveText('030 starts on frame 1, was 65; 010, 020 start 48 frames later');
  await page.mouse.up();
  await expect.poll(() => starts(page)).toEqual(['030 1', '010 49', '020 73']);
  for (let undone = 0; undone < 3; undone++) await page.keyboard.press('Control+z');
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 73']);
});

test('a shot shortened in Plan is told on the path and in Assemble, and fixed there', async ({ page, app }) => {
  const projectId = await threeShots(app.url);
  await openStage(page, app.url, projectId, 'assemble');
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 73']);
  // 020 is trimmed to its frames 9 to 48; then the shot is cut to 40 in Plan, and 010 made 4 longer.
  await page.getByRole('option', { name: /^020/ }).click();
  await page.getByRole('tab', { name: 'Item' }).click();
  await page.getByLabel('First frame of 020 that is shown').fill('9');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: 'Reel' }).click();
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 25', '030 65']);
  await run(page, 'Go to Plan');
  await page.getByRole('tab', { name: 'Shots', exact: true }).click();
  await page.getByLabel(/^Length of 020/).fill('40');
  await page.keyboard.press('Enter');
  await page.getByLabel(/^Length of 010/).fill('28');
  await page.keyboard.press('Enter');
  const broken = page.getByRole('button', { name: 'Check to Assemble: counts disagree. Show why' });
  await broken.click();
  await expect(page.getByText('The reel shows frames 9 to 48 of shot 020, which ends with frame 40: on the last 8 frames')).toBeVisible();
  await page.keyboard.press('Escape');
  await run(page, 'Go to Assemble');
  const told = page.getByRole('region', { name: 'Since you were last here' });
  await expect(told.getByRole('listitem')).toHaveText([
    '010 is 4 frames longer (28, was 24)',
    '020 has other drawings or timing',
    '020, 030 start 4 frames later',
    'The reel has 116 frames, was 112',
  ]);
  await told.getByRole('button', { name: '020, 030 start 4 frames later' }).click();
  await expect(page.getByTestId('frame-now')).toHaveText('29');
  await broken.click();
  await page.getByRole('button', { name: 'Trim it to the 32 frames there are' }).click();
  await expect.poll(() => starts(page)).toEqual(['010 1', '020 29', '030 61']);
  await expect(page.getByText('The reel shows frames 9 to 48 of shot 020')).toHaveCount(0);
  await page.keyboard.press('Escape');
  await told.getByRole('button', { name: 'Dismiss' }).click();
  await expect(told).toHaveCount(0);
});

test('the reel is played over its joins, scrubbed and looped, in reel and shot counts at once', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'assemble');
  await openShot(page, '020');
  await expect(page.getByTestId('frame-now')).toHaveText('61');
  await expect(page.getByTestId('shot-now')).toHaveText('020: 1 of 96');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByTestId('frame-now')).toHaveText('60');
  await expect(page.getByTestId('shot-now')).toHaveText('010: 60 of 72');
  await page.keyboard.press('g');
  await answer(page, '160');
  await expect(page.getByTestId('shot-now')).toHaveText('gap: 4 of 12');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('shot-now')).toHaveText(/^030: /);
  await page.keyboard.press('Space');
  await page.getByRole('option', { name: /^gap/ }).click();
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: 'Loop 157–168' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByTestId('late')).toHaveText(/^\d+ of [2-9]\d late/);
  expect(Number(await page.getByTestId('frame-now').textContent())).toBeLessThanOrEqual(168);
  await page.keyboard.press('Space');
});

test('where sounds together are over full scale, the frames are named with how much, and lowering one ends it', async ({ page, app }) => {
  const projectId = await threeShots(app.url);
  const wav = writeWav([new Float32Array(12_000).fill(0.75)], 48_000, 'float32');
  const kept = await fetch(`${app.url}/api/projects/${projectId}/recordings?name=loud.wav`, { method: 'POST', body: wav });
  const { original } = (await kept.json()) as { original: string };
  const recording = { original, fileName: 'loud.wav', sampleRate: 48_000, samples: 12_000, channels: 1 };
  // A quarter of a second each, 6 frames: from the 31st and from the 34th on. Together, on 34 to 36, they are 1.5: 3.5 dB over 1.
  await sendSteps(
    app.url,
    projectId,
    [30, 33].map((startFrame, index) => ({
      type: 'addSound' as const,
      shotId: null,
      sound: newSound(`loud${index}`, `Loud ${index + 1}`, recording, startFrame),
      index,
    })),
  );
  await openStage(page, app.url, projectId, 'assemble');
  await page.getByRole('tab', { name: 'Sounds' }).click();
  const level = page.getByRole('region', { name: 'Level of the mix' });
  await level.getByRole('button', { name: 'Measure the mix' }).click();
  await expect(level.getByRole('listitem')).toHaveText(['frames 34–36 +3.5 dB']);
  await level.getByRole('button', { name: 'frames 34–36' }).click();
  await expect(page.getByTestId('frame-now')).toHaveText('34');
  await page.getByRole('textbox', { name: /^Level of Loud 1/ }).fill('-12');
  await page.keyboard.press('Enter');
  await expect(level.getByText('Sounds have changed since it was measured.')).toBeVisible();
  await level.getByRole('button', { name: 'Measure the mix again' }).click();
  await expect(level.getByRole('status')).toHaveText('Nowhere louder than full scale (0 dBFS).');
});
