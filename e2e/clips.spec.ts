import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import sharp from 'sharp';
import { planRateChange } from '../src/core/conform/conform';
import { mustBeDone } from '../src/core/outcome';
import { placedItems } from '../src/core/reel/reel';
import { chooseFile, ffmpegFile, greyOf, numberedClip, VP9 } from './clips';
import { expect, goToFrame, openStage, test, untilKept } from './fixtures';
import { emptyProject, projectOnServer, sendSteps } from './projects';

const FILM = { title: 'Clips', rate: { num: 24, den: 1 }, size: { width: 128, height: 72 }, frames: 6 };

const dialog = (page: Page) => page.getByRole('dialog', { name: 'Bring in a clip' });

/** The grey in the middle of the picture that is shown. */
const shownGrey = (page: Page) =>
  page
    .getByRole('region', { name: 'Picture' })
    .locator('canvas')
    .evaluate(
      (canvas: HTMLCanvasElement) => canvas.getContext('2d')?.getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data[1] ?? -1,
    );

/** Which of its frames a clip at 25 shows on its frame `frame` (from 0) in a film at 24. */
const converted = (frame: number) => Math.floor(((frame + 0.5) * 25) / 24);

test('a clip is laid by keyboard alone; every frame that is gone to, and every one that leaves, is the one that is due', async ({
  page,
  app,
}) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'assemble');
  await chooseFile(page, 'street.webm', await numberedClip(50, '25', VP9, 'webm'));
  await expect(dialog(page).getByText('50 frames, 25 a second, 2.000 s, 64 × 36')).toBeVisible();
  await expect(dialog(page).getByText('It lasts as long as it did; of its frames 13, 38 are passed over.')).toBeVisible();
  await dialog(page)
    .getByRole('radio', { name: /^Frame for frame/ })
    .focus();
  await page.keyboard.press('Space');
  await expect(dialog(page).getByText('it lasts 50 frames, 2.083 s instead of 2.000 s')).toBeVisible();
  await dialog(page)
    .getByRole('radio', { name: /^Keep its time/ })
    .focus();
  await page.keyboard.press('Space');
  await dialog(page).getByRole('button', { name: 'Bring in' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: 'street, a clip keeping its time, reel frames 7 to 54, whole' })).toBeVisible();
  await untilKept(page);
  // Forwards, backwards, across key frames and far.
  for (const frame of [0, 1, 2, 11, 12, 13, 47, 3, 30, 29, 28, 46]) {
    await page.keyboard.press('g');
    await page
      .getByRole('dialog')
      .getByRole('textbox')
      .fill(String(frame + 7));
    await page.keyboard.press('Enter');
    await expect.poll(async () => Math.abs((await shownGrey(page)) - greyOf(converted(frame)))).toBeLessThanOrEqual(3);
  }
  // It is read the other way, trimmed and split by number, and each part shows its own frames.
  await page.getByRole('tab', { name: 'Item' }).click();
  await page.getByLabel('First frame of street that is shown').fill('11');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('reel-says')).toContainText('street: frames 11 to 48, 38 of 48');
  await page.getByRole('link', { name: /^Hand over/ }).click();
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 44 frames' }).click();
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  const reader = new ZipReader(new BlobReader(new Blob([await readFile(await (await download).path())])));
  const entries = (await reader.getEntries()).filter((entry) => entry.filename.endsWith('.png'));
  expect(entries).toHaveLength(44);
  for (const [index, entry] of entries.entries()) {
    if (entry.directory || index < 6) continue;
    const { channels } = await sharp(await entry.getData(new Uint8ArrayWriter())).stats();
    expect(Math.abs((channels[1]?.mean ?? -1) - greyOf(converted(index - 6 + 10)))).toBeLessThanOrEqual(3);
  }
});

test('H.264 in MP4, with frames in another order than they are shown, shows the right ones', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'assemble');
  await chooseFile(page, 'order.mov', await numberedClip(48, '24', ['-c:v', 'libx264', '-bf', '3', '-crf', '4'], 'mov'));
  await expect(dialog(page).getByText('48 frames, 24 a second, 2.000 s')).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Bring in' }).click();
  for (const frame of [0, 7, 5, 24, 47]) {
    await goToFrame(page, frame + 7);
    await expect.poll(async () => Math.abs((await shownGrey(page)) - greyOf(frame))).toBeLessThanOrEqual(4);
  }
});

test('clips that are not as they should be are told, each in a sentence', async ({ page, app }) => {
  test.setTimeout(240_000);
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'assemble');
  const fast = ['-movflags', '+faststart', '-c:v', 'libx264', '-crf', '4'];
  const whole = await numberedClip(240, '24', fast, 'mp4');
  const refused = async (name: string, file: Buffer, words: RegExp) => {
    await chooseFile(page, name, file);
    await expect(dialog(page).getByRole('alert')).toHaveText(words);
    await page.keyboard.press('Escape');
    await expect(dialog(page)).toHaveCount(0);
  };
  const sound = ['-f', 'lavfi', '-i', 'sine=frequency=440:duration=3:sample_rate=48000'];
  await refused('sound.mp4', await ffmpegFile([...sound, '-c:a', 'aac'], 'mp4'), /no picture in this clip, only sound/);
  await refused('text.mp4', Buffer.from('This is no clip.'.repeat(100)), /not a clip that can be read/);
  await refused('old.mov', await numberedClip(12, '24', ['-c:v', 'mpeg4', '-q:v', '2'], 'mov'), /This browser can’t decode the clip/);

  // One that ends in the middle of its data: what is there comes in, and where it stops is said.
  await chooseFile(page, 'cut.mp4', whole.subarray(0, Math.floor(whole.byteLength * 0.6)));
  await expect(dialog(page).getByRole('alert')).toHaveText(/Its file says 240 frames, but from frame \d+ on it doesn’t decode/);
  await expect(dialog(page).getByText(/^\d+ frames, 24 a second/)).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Cancel' }).click();

  // Frames that are not equally long are read by their times.
  const uneven = await ffmpegFile(
    [
      '-f',
      'lavfi',
      '-i',
      'testsrc=size=64x36:rate=24:duration=2',
      '-vf',
      "select='not(mod(n\\,5)-3)+not(mod(n\\,5))'",
      '-fps_mode',
      'vfr',
      ...VP9,
    ],
    'webm',
  );
  await chooseFile(page, 'uneven.webm', uneven);
  await expect(dialog(page).getByText(/no constant rate: read by its times/)).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Cancel' }).click();

  // Sound that is longer than the picture, and a clip of one frame.
  const longer = await ffmpegFile(
    ['-f', 'lavfi', '-i', 'testsrc=size=64x36:rate=25:duration=2', ...sound, ...VP9, '-c:a', 'libopus'],
    'mkv',
  );
  await chooseFile(page, 'longer.mkv', longer);
  await expect(dialog(page).getByText(/^Its sound lasts 3\.0\d\d s, its picture 2\.000 s\.$/)).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Bring in' }).click();
  await expect(page.getByRole('button', { name: /^Sound Longer of the reel, frames 7 to 7[89] of the reel/ })).toBeVisible();
  await chooseFile(page, 'one.mp4', await numberedClip(1, '24', fast, 'mp4'));
  await expect(dialog(page).getByText(/^1 frame, /)).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Bring in' }).click();
  await untilKept(page);
  const { reel } = await projectOnServer(app.url, projectId);
  expect(reel.items.map((item) => item.kind)).toEqual(['shot', 'clip', 'clip']);
  expect(reel.sounds).toHaveLength(1);
});

test('a numbered sequence that is dropped on the reel becomes a shot with one animated level', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'assemble');
  const files = await Promise.all(
    [1, 2, 3, 10].map(async (number) => ({
      name: `walk_${number}.png`,
      mimeType: 'image/png',
      buffer: await sharp({ create: { ...FILM.size, channels: 4, background: { r: number * 20, g: 90, b: 10, alpha: 1 } } })
        .png()
        .toBuffer(),
    })),
  );
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+i');
  await (await chooser).setFiles(files);
  const bring = page.getByRole('dialog', { name: 'Bring pictures in' });
  await expect(bring.getByText('Missing in the row: 4–9.')).toBeVisible();
  await expect(bring.getByText(/^Shot 020 of 4 frames: /)).toBeVisible();
  await bring.getByRole('button', { name: 'Bring in 4 pictures' }).click();
  await expect(page.getByRole('option', { name: /^020, reel frames 7 to 10, whole/ })).toBeVisible();
  await untilKept(page);
  const { shots } = await projectOnServer(app.url, projectId);
  expect(shots[1]?.levels.map(({ kind, name, drawings }) => [kind, name, drawings.length])).toEqual([['animated', 'Walk', 4]]);
});

test('a cut that a new rate moved, and a clip that is gone, are on the path with what puts them right', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, { ...FILM, frames: 24 });
  await openStage(page, app.url, projectId, 'assemble');
  await chooseFile(page, 'street.webm', await numberedClip(40, '25', VP9, 'webm'));
  await dialog(page)
    .getByRole('radio', { name: /^Frame for frame/ })
    .focus();
  await page.keyboard.press('Space');
  await dialog(page).getByRole('button', { name: 'Bring in' }).click();
  await untilKept(page);
  const { shots } = await projectOnServer(app.url, projectId);
  await sendSteps(app.url, projectId, [
    {
      type: 'addItems',
      items: [{ item: { id: 'again', kind: 'shot', finished: true, shotId: shots[0]?.id ?? '', trim: null }, index: 2 }],
    },
  ]);
  await expect(page.getByRole('option')).toHaveCount(3);
  // 24, 40 and 24 frames: at 12 the last begins on 12 + 40 = 52, though its time, 64 frames of 24, is 32 of 12.
  const before = await projectOnServer(app.url, projectId);
  const planned = planRateChange(before, placedItems(before), {
    scope: { kind: 'project', to: { num: 12, den: 1 } },
    way: 'keepTime',
    vanishing: 'refuse',
  });
  await sendSteps(app.url, projectId, [mustBeDone(planned.edit).step]);
  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(page.locator('p', { hasText: 'that is frame 33 at 12, and it stands on frame 53, 20 frames late' })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Show 20 frames less at the end of street' }).click();
  await expect(page.locator('p', { hasText: '20 frames late' })).toHaveCount(0);
  await page.getByRole('link', { name: /^Assemble/ }).click();
  await expect(page.getByRole('option', { name: /^010.*reel frames 33 to 44/ })).toBeVisible();
  await untilKept(page);

  await page.route('**/api/originals/**', (route) => route.fulfill({ status: 404, body: '{}', headers: { 'lime-tick': '1' } }));
  await page.reload();
  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(page.locator('p', { hasText: 'nothing shows on frames 13–32 of the reel' })).toBeVisible();
  await page.getByRole('button', { name: 'Leave street.webm out of the reel' }).click();
  await page.getByRole('link', { name: /^Assemble/ }).click();
  await expect(page.getByRole('option')).toHaveCount(2);
});

test('a clip that flashes is told on Check with the reel’s frames, and its frames are never asked of the server', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, { ...FILM, frames: 24 });
  const refused: string[] = [];
  page.on('response', (response) => {
    if (response.url().includes('/api/') && response.status() >= 400) refused.push(`${response.status()} ${response.url()}`);
  });
  await openStage(page, app.url, projectId, 'assemble');
  // Black and white in turn, each for two frames; the paper before it is white, so that its first frame changes too.
  const flashing = await ffmpegFile(
    ['-f', 'lavfi', '-i', 'color=black:s=64x36:r=24:d=2', '-vf', "geq=lum='if(lt(mod(N,4),2),16,235)':cb=128:cr=128", ...VP9],
    'webm',
  );
  await chooseFile(page, 'storm.webm', flashing);
  await dialog(page).getByRole('button', { name: 'Bring in' }).click();
  await untilKept(page);
  await page.getByRole('link', { name: /^Check/ }).click();
  await expect(
    page.locator('p', {
      hasText: 'It flashes 6 times within a second, the clip storm, frames 25–47 of the reel, over up to 100 % of the field',
    }),
  ).toBeVisible();
  expect(refused).toEqual([]);
});
