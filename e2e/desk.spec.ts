import sharp from 'sharp';
import { expect, goToFrame, openStage, stroke, test, untilKept, untilLaid } from './fixtures';
import { boxPixels, drawnBox, pixelAt, pressPaper, takeColour } from './paper';
import { emptyProject, makeProject, projectOnServer } from './projects';

const FILM = { title: 'Tools', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 12 };

/** A ring with a gap of about 6 px at its right. */
const RING: readonly (readonly [number, number])[] = Array.from({ length: 40 }, (_, index) => {
  const angle = 0.06 + (index / 39) * (2 * Math.PI - 0.12);
  return [0.5 + Math.cos(angle) * 0.16, 0.5 + Math.sin(angle) * 0.28] as const;
});

test('a fill closes gaps, takes its borders from all that shows when told, and is one edit', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, RING);
  await page.keyboard.press('f');
  await page.getByRole('button', { name: 'Brick' }).click();
  await page.getByRole('button', { name: 'More about this tool' }).click();
  await page.getByRole('slider', { name: 'Closes gaps' }).focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Escape');
  await pressPaper(page, 0.5, 0.5);
  await expect.poll(() => pixelAt(page, 0.5, 0.5)).toEqual([196, 85, 58, 255]);
  expect(await pixelAt(page, 0.85, 0.5)).toEqual([0, 0, 0, 0]);
  await untilKept(page);

  await page.keyboard.press('Control+z');
  await expect.poll(() => pixelAt(page, 0.5, 0.5)).toEqual([0, 0, 0, 0]);
  await page.getByRole('button', { name: 'More about this tool' }).click();
  await page.getByRole('slider', { name: 'Closes gaps' }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Escape');
  await untilLaid(page);
  await pressPaper(page, 0.5, 0.5);
  await expect.poll(() => pixelAt(page, 0.85, 0.5)).toEqual([196, 85, 58, 255]);
  await page.keyboard.press('Control+z');

  // On a second level the ring is only seen: told to, the fill stops at it all the same.
  await page.keyboard.press('Shift+L');
  await expect(page.getByRole('heading', { name: 'Level 2, blank' })).toBeVisible();
  await page.getByRole('button', { name: 'More about this tool' }).click();
  await page.getByRole('slider', { name: 'Closes gaps' }).focus();
  await page.keyboard.press('End');
  await page.getByRole('radio', { name: 'All that shows' }).click();
  await page.keyboard.press('Escape');
  await untilLaid(page);
  await pressPaper(page, 0.5, 0.5);
  await expect.poll(() => pixelAt(page, 0.5, 0.5)).toEqual([196, 85, 58, 255]);
  expect(await pixelAt(page, 0.85, 0.5)).toEqual([0, 0, 0, 0]);
  await untilKept(page);
});

test('a colour is taken from the paper, and the palette keeps it with the project', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const picker = page.getByLabel('Another colour');
  await picker.fill('#7744aa');
  await page.keyboard.press('Escape');
  await stroke(page, [
    [0.2, 0.5],
    [0.8, 0.5],
  ]);
  await page.getByRole('button', { name: 'Add this colour to the palette' }).click();
  await expect(page.getByRole('button', { name: '#7744aa' })).toBeVisible();
  await page.getByRole('button', { name: 'Grass' }).click();
  await page.getByRole('button', { name: 'Pick a colour' }).click();
  await pressPaper(page, 0.5, 0.5);
  await expect(picker).toHaveValue('#7744aa');
  await expect(page.getByRole('button', { name: 'Brush', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).palette.at(-1)).toBe('#7744aa');
  await page.getByRole('button', { name: '#7744aa' }).click({ modifiers: ['Alt'] });
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).palette).not.toContain('#7744aa');
});

test('with Shift a stroke is straight; on a turned, mirrored, nearer paper it lies where it was drawn', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await page.keyboard.down('Shift');
  await stroke(page, [
    [0.2, 0.5],
    [0.5, 0.9],
    [0.8, 0.5],
  ]);
  await page.keyboard.up('Shift');
  await untilKept(page);
  const [left = 0, top = 0, right = 0, bottom = 0] = await drawnBox(page);
  expect(bottom - top).toBeLessThan(12);
  expect(right - left).toBeGreaterThan(360);

  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  for (const key of ['Control+=', 'Control+=', ']', ']', 'z']) await page.keyboard.press(key);
  await expect(page.getByText('156 % · turned -30° · mirrored')).toBeVisible();
  const before = await page.getByTestId('paper').boundingBox();
  if (!before) throw new Error('There is no paper.');
  const middle = { x: before.x + before.width / 2, y: before.y + before.height / 2 };
  // The middle of the room is the middle of the paper, however it is turned.
  await untilLaid(page);
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x, middle.y - 60, { steps: 5 });
  await page.mouse.up();
  await untilKept(page);
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = await drawnBox(page);
  // Up on the screen is up and to one side on a paper turned by 30°: 60 px of the screen, nearer by 1.5625.
  expect(y1).toBeGreaterThan(176);
  expect(y1).toBeLessThan(190);
  const scale = 640 / (before.width / (1.5625 * (Math.cos(Math.PI / 6) + (Math.sin(Math.PI / 6) * 360) / 640)));
  const length = (60 / 1.5625) * scale;
  expect(Math.abs(y1 - y0 - 6 - length * Math.cos(Math.PI / 6))).toBeLessThan(4);
  expect(Math.abs(x1 - x0 - 6 - length * Math.sin(Math.PI / 6))).toBeLessThan(4);
  await page.keyboard.press('Control+0');
  await expect(page.getByText('156 %')).toHaveCount(0);
});

test('a part is picked up, moved by keys, turned into another place, put down; Escape leaves all as it was', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, [
    [0.1, 0.2],
    [0.2, 0.2],
  ]);
  await stroke(page, [
    [0.7, 0.7],
    [0.8, 0.7],
  ]);
  await untilKept(page);
  const both = await drawnBox(page);
  await page.keyboard.press('u');
  await stroke(page, [
    [0.05, 0.1],
    [0.3, 0.1],
    [0.3, 0.35],
    [0.05, 0.35],
  ]);
  await expect(page.getByTestId('part')).toBeVisible();
  for (let press = 0; press < 5; press++) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('0, 50 px · 100 % · 0°')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('part')).toHaveCount(0);
  expect(await drawnBox(page)).toEqual(both);

  await stroke(page, [
    [0.05, 0.1],
    [0.3, 0.1],
    [0.3, 0.35],
    [0.05, 0.35],
  ]);
  for (let press = 0; press < 3; press++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await untilKept(page);
  const moved = await drawnBox(page);
  expect(moved).toEqual([(both[0] ?? 0) + 30, (both[1] ?? 0) - 1, both[2], both[3]]);

  // All of it, mirrored left and right about its own middle, is what an image library makes of it.
  const before = await boxPixels(page, moved);
  await pressPaper(page, 0.5, 0.95);
  await page.getByRole('button', { name: 'Mirror horizontally' }).click();
  await page.getByRole('button', { name: 'Apply' }).click();
  await untilKept(page);
  expect(await drawnBox(page)).toEqual(moved);
  const raw = { width: (moved[2] ?? 0) - (moved[0] ?? 0), height: (moved[3] ?? 0) - (moved[1] ?? 0), channels: 4 as const };
  const mirrored = await sharp(Uint8Array.from(before), { raw }).flop().raw().toBuffer();
  const after = await boxPixels(page, moved);
  const alphaApart = after.map((value, index) => (index % 4 === 3 ? Math.abs(value - (mirrored[index] ?? 0)) : 0));
  expect(alphaApart.filter((apart) => apart > 2)).toEqual([]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(() => drawnBox(page)).toEqual(both);
});

test('what was done is undone after a reload too', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, [
    [0.2, 0.3],
    [0.8, 0.3],
  ]);
  await untilKept(page);
  const first = await drawnBox(page);
  await stroke(page, [
    [0.2, 0.7],
    [0.8, 0.7],
  ]);
  await untilKept(page);
  const second = await drawnBox(page);
  await page.reload();
  await untilLaid(page);
  await page.keyboard.press('Control+z');
  await expect.poll(() => drawnBox(page)).toEqual(first);
  await untilKept(page);
  await page.reload();
  await untilLaid(page);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => drawnBox(page)).toEqual(second);
});

test('a locked level takes neither strokes nor new lengths, and undo waits for it', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await stroke(page, [
    [0.2, 0.3],
    [0.8, 0.3],
  ]);
  await untilKept(page);
  const before = await drawnBox(page);
  await page.getByRole('button', { name: 'Lock Level 1' }).click();
  await stroke(page, [
    [0.2, 0.7],
    [0.8, 0.7],
  ]);
  await expect(page.getByText('Level 1 is locked: unlock it to draw on it.')).toBeVisible();
  await page.keyboard.press('5');
  await expect(page.getByText('Level 1 is locked: unlock it to change what is on it.')).toBeVisible();
  expect(await drawnBox(page)).toEqual(before);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Lock Level 1', pressed: false })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await drawnBox(page))[2]).toBe(0);
});

test('undo goes to the drawing whose stroke it takes back; two fingers move the paper and draw nothing', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 24 }, { drawings: 4, hold: 2 });
  await openStage(page, app.url, projectId, 'draw');
  await untilLaid(page);
  const before = await drawnBox(page);
  await stroke(page, [
    [0.02, 0.02],
    [0.05, 0.02],
  ]);
  await untilKept(page);
  expect(await drawnBox(page)).not.toEqual(before);
  await goToFrame(page, 5);
  await untilLaid(page);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('frame-now')).toHaveText('1');
  await expect.poll(() => drawnBox(page)).toEqual(before);

  const box = await page.getByTestId('paper').boundingBox();
  if (!box) throw new Error('There is no paper.');
  const devtools = await page.context().newCDPSession(page);
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const fingers = (apart: number) => [
    { x: middle.x - apart, y: middle.y, id: 1 },
    { x: middle.x + apart, y: middle.y, id: 2 },
  ];
  await devtools.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(40) });
  for (const apart of [50, 60, 70, 80]) await devtools.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(apart) });
  await devtools.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect(page.getByText(/^200 %/)).toBeVisible();
  await untilKept(page);
  expect(await drawnBox(page)).toEqual(before);
});

test('a stroke that changes nothing leaves nothing behind to be drawn again', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await page.keyboard.press('n');
  await page.keyboard.press('r');
  await stroke(page, [
    [0.2, 0.3],
    [0.8, 0.3],
  ]);
  await untilKept(page);
  await page.reload();
  await untilLaid(page);
  await expect(page.getByText('drawn again')).toHaveCount(0);
  const drafts = () =>
    page.evaluate(
      () =>
        new Promise<number>((resolve, reject) => {
          const opening = indexedDB.open('lime-tick');
          opening.onerror = () => reject(opening.error);
          opening.onsuccess = () => {
            const counting = opening.result.transaction('drafts').objectStore('drafts').count();
            counting.onsuccess = () => resolve(counting.result);
          };
        }),
    );
  await expect.poll(drafts).toBe(0);
  await page.keyboard.press('d');
  await stroke(page, [
    [0.2, 0.3],
    [0.8, 0.3],
  ]);
  await untilKept(page);
  await expect.poll(drafts).toBe(0);
});

test('a level’s blend is seen on the paper as the W3C formula has it', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const seen = async () => {
    const box = await page.getByTestId('paper').boundingBox();
    if (!box) throw new Error('There is no paper.');
    const shot = await page.screenshot({
      clip: { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2), width: 1, height: 1 },
    });
    return [...(await sharp(shot).removeAlpha().raw().toBuffer())];
  };
  await page.keyboard.press('f');
  await takeColour(page, '#c08040');
  await pressPaper(page, 0.5, 0.5);
  await untilKept(page);
  await page.keyboard.press('Shift+L');
  await takeColour(page, '#40c0e0');
  await untilLaid(page);
  await pressPaper(page, 0.5, 0.5);
  await untilKept(page);
  await page.mouse.move(2, 2);
  await expect.poll(seen).toEqual([0x40, 0xc0, 0xe0]);
  await page.getByLabel('Blend').selectOption('multiply');
  await page.mouse.move(2, 2);
  // Multiply, W3C Compositing and Blending Level 1, clause 10.1.2: B(Cb, Cs) = Cb × Cs.
  await expect.poll(seen).toEqual([0xc0 * 0x40, 0x80 * 0xc0, 0x40 * 0xe0].map((product) => Math.round(product / 255)));
});

test('one key puts everything but paper, tools and clock aside, and the paper fills what there is', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, {
    title: 'Alone',
    rate: { num: 24, den: 1 },
    size: { width: 320, height: 180 },
    frames: 24,
  });
  await openStage(page, app.url, projectId, 'draw');
  const paper = page.getByTestId('paper');
  const widthOf = async () => (await paper.boundingBox())?.width ?? 0;
  const before = await widthOf();
  await page.keyboard.press('Alt+Enter');
  await expect(page.getByRole('grid', { name: /^Sheet of shot/ })).toHaveCount(0);
  await expect(page.getByRole('navigation', { name: 'Stages' })).toBeHidden();
  await expect(page.getByRole('timer')).toBeVisible();
  await expect.poll(widthOf).toBeGreaterThan(before * 1.3);
  // A stroke is drawn there as anywhere, and the way back is in sight.
  await stroke(page, RING);
  await expect.poll(() => drawnBox(page)).not.toEqual([]);
  await page.getByRole('button', { name: 'Paper alone' }).click();
  await expect(page.getByRole('grid', { name: /^Sheet of shot/ })).toBeVisible();
  await expect.poll(widthOf).toBeCloseTo(before, 0);
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).shots[0]?.levels[0]?.drawings).toHaveLength(1);
});
