import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { levelOf } from '../src/core/testing/sheets';
import { drop } from './drop';
import { expectReadable } from './everybody';
import { expect, openStage, test, untilKept } from './fixtures';
import { makeProject, pictureFile, projectOnServer, sendSteps } from './projects';

/*
 * What came back is dropped on the counting desk. The film that is dropped is the one that was handed over, spoiled by ffmpeg, so
 * that what is wrong with it is known.
 */

const FILM = { title: 'Returned', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 36 };

const folderFor = (): Promise<string> => mkdtemp(path.join(tmpdir(), 'lime-tick-desk-'));
const ffmpeg = (...args: readonly string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);

/** Hands over the reel as a film, and gives where it was saved. */
async function handedOver(page: Page, url: string, id: string): Promise<string> {
  await openStage(page, url, id, 'hand-over');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: `Hand over ${FILM.frames} frames` }).click();
  const file = path.join(await folderFor(), 'handed.mp4');
  await (await download).saveAs(file);
  await expect(page.getByTestId('verdict')).toHaveText('agrees', { timeout: 60_000 });
  return file;
}

/** The film with a frame (from 0) there once more, coded anew. */
function withTwice(film: string, frame: number): string {
  const out = path.join(path.dirname(film), 'edit v3.mov');
  const cut = `[0:v]split=2[a][b];[a]trim=end_frame=${frame + 1},setpts=PTS-STARTPTS[x];[b]trim=start_frame=${frame},setpts=PTS-STARTPTS[y];[x][y]concat=n=2:v=1[v]`;
  ffmpeg('-i', film, '-filter_complex', cut, '-map', '[v]', '-r', '24', '-c:v', 'libx264', '-crf', '20', out);
  return out;
}

test('a film that came back with a frame too many is dropped on the desk, told in one sentence, gone through to the frame and put on the sheet', async ({
  page,
  app,
}) => {
  test.setTimeout(180_000);
  const id = await makeProject(app.url, FILM, { drawings: FILM.frames, hold: 1 });
  const film = await handedOver(page, app.url, id);
  const edited = withTwice(film, 19);
  await page.getByRole('radio', { name: 'Counting desk' }).click();
  await expect(page.getByRole('heading', { name: 'Count any film, whoever made it' })).toBeVisible();
  await drop(page, [{ name: 'edit v3.mov', type: 'video/quicktime', bytes: await readFile(edited) }]);
  const headline = page.getByTestId('desk-headline');
  await expect(headline).toHaveText('From frame 21 on everything is one frame late: frame 20 is there twice.', { timeout: 60_000 });
  await expect(page.getByTestId('desk-verdict')).toHaveText('disagrees');
  const figures = page.getByRole('table', { name: 'Planned and counted' });
  await expect(figures.getByRole('row', { name: 'frames' })).toContainText('37');
  await expect(figures.getByRole('row', { name: 'right pictures' })).toContainText('20 ×');

  // Through to the frame: the strips stand there, and the file's frame 21 is told to show 20.
  await page.getByRole('button', { name: 'Go to 20' }).click();
  await page.getByRole('button', { name: 'edit v3.mov, frame 21, not as planned' }).click();
  await expect(page.getByText('File, frame 21')).toContainText('is not the plan’s');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('File, frame 22')).toContainText('shows 21');

  // Who would refuse it, and the bench.
  const refused = page.getByRole('region', { name: 'Where it would be refused' });
  await refused.getByText('Cinema, 24', { exact: true }).click();
  await expect(refused).toContainText('Cinema, 24 takes 1920 × 1080');
  await expect(refused).toContainText('“edit v3.mov” has other signs');
  const bench = page.getByRole('region', { name: 'In the editing bench' });
  await bench.getByLabel('Everything is shown at').selectOption('30');
  await expect(bench).toContainText('Comes out as 46 frames at 30');
  const written = page.waitForEvent('download');
  await bench.getByRole('button', { name: 'Save this film, to see it' }).click();
  const wrong = path.join(path.dirname(film), 'bench.webm');
  await (await written).saveAs(wrong);
  const probed = execFileSync('ffprobe', [
    '-v',
    'error',
    '-count_packets',
    '-show_entries',
    'stream=nb_read_packets',
    '-of',
    'csv=p=0',
    wrong,
  ]);
  expect(Number(String(probed).trim().replace(/,$/, ''))).toBe(46);

  const told = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as text' }).click();
  const text = path.join(path.dirname(film), 'told.txt');
  await (await told).saveAs(text);
  expect(await readFile(text, 'utf8')).toContain('≠ frames: planned 36, counted 37');

  // The film as it was handed over agrees; a repeat of it in other kinds, too.
  ffmpeg('-i', film, '-vf', 'scale=320:180', '-c:v', 'libvpx', '-b:v', '2M', path.join(path.dirname(film), 'small.webm'));
  await page.getByTestId('desk-files').setInputFiles([film, path.join(path.dirname(film), 'small.webm')]);
  await expect(page.getByTestId('desk-verdict')).toHaveText(['disagrees', 'agrees', 'disagrees'], { timeout: 60_000 });
  await page.getByRole('button', { name: /^small\.webm 36/ }).click();
  await expect(headline).toHaveText('The file’s pictures are 320 × 180, the plan’s 640 × 360.');

  // Held against its own receipt it is the very file, and its frames are seen.
  await page.getByRole('radio', { name: 'Hand over' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save receipt' }).click();
  const receipt = path.join(path.dirname(film), 'handed.receipt.json');
  await (await saved).saveAs(receipt);
  await page.getByRole('radio', { name: 'Counting desk' }).click();
  await page.getByRole('button', { name: /^handed\.mp4 36/ }).click();
  await page.locator('input[accept=".json,application/json"]').setInputFiles(receipt);
  await expect(headline).toContainText('This is the very file:');
  await expect(page.getByRole('list', { name: 'Frames of handed.mp4' }).getByRole('button')).toHaveCount(13);
  await page.getByRole('button', { name: 'Reel, today' }).click();
  await expect(page.getByTestId('desk-verdict')).toHaveText(['disagrees', 'agrees', 'disagrees'], { timeout: 60_000 });

  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ reducedMotion: 'reduce', colorScheme });
    await expectReadable(page, colorScheme);
  }
  for (const [width, height] of [
    [1024, 768],
    [320, 640],
  ] as const) {
    await page.setViewportSize({ width, height });
    await expect.poll(() => page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  }
  await page.setViewportSize({ width: 1280, height: 800 });

  // What was found becomes a note on the sheet, a step that can be undone.
  await page.getByRole('button', { name: /^edit v3\.mov 37/ }).click();
  await page.getByRole('button', { name: 'Put it on the sheet' }).click();
  await page.keyboard.press('Alt+1');
  await expect(page.getByRole('grid')).toContainText('edit v3.mov: From frame 21 on');

  // Or the plan follows the file, which agrees then: a step, too.
  await page.getByRole('link', { name: /^Hand over/ }).click();
  await page.getByRole('radio', { name: 'Counting desk' }).click();
  await page.getByRole('button', { name: /^edit v3\.mov 37/ }).click();
  await page.getByRole('button', { name: 'Hold it 1 frame longer in the plan' }).click();
  await expect(page.getByText(/the shot goes from 36 to 37 frames/)).toBeVisible();
  await expect(page.getByTestId('desk-verdict').first()).toHaveText('agrees', { timeout: 60_000 });
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('desk-verdict').first()).toHaveText('disagrees', { timeout: 60_000 });
  await untilKept(page);

  // The project's package does as well where no project is open: all its pictures are in it, and none is asked of the server.
  const packed = path.join(path.dirname(film), 'returned.limetick');
  await writeFile(packed, new Uint8Array(await (await fetch(`${app.url}/api/projects/${id}/package`)).arrayBuffer()));
  await page.route('**/api/pictures**', (route) => route.abort());
  await page.goto(`${app.url}/counting-desk`);
  await page.getByTestId('desk-files').setInputFiles([film, edited]);
  await expect(page.getByText('counted; held against nothing')).toHaveCount(2, { timeout: 60_000 });
  await page.getByTestId('desk-package').setInputFiles(edited);
  await expect(page.getByText(/It is not a whole ZIP/)).toBeVisible();
  await page.getByTestId('desk-package').setInputFiles(packed);
  await expect(page.getByTestId('desk-verdict')).toHaveText(['agrees', 'disagrees'], { timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Returned', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('list', { name: 'Frames of Returned' }).getByRole('button')).toHaveCount(13);
});

test('a file that left without the background is held against the drawings alone, and they are what is seen beside it', async ({
  page,
  app,
}) => {
  const id = await makeProject(app.url, FILM, { drawings: FILM.frames, hold: 1 });
  const sky = await pictureFile(
    '<svg xmlns="http://www.w3.org/2000/svg" width="640" height="360"><rect width="640" height="360" fill="#7fb2d9"/></svg>',
    FILM.size,
  );
  const shotId = (await projectOnServer(app.url, id)).shots[0]?.id ?? '';
  const sheet = levelOf('Sky', '1', { kind: 'still' });
  const level = { ...sheet, drawings: sheet.drawings.map((drawing) => ({ ...drawing, picture: sky.digest })) };
  await sendSteps(app.url, id, [{ type: 'addLevel', shotId, index: 0, level }], [sky]);
  await openStage(page, app.url, id, 'hand-over');
  await page.getByRole('radio', { name: 'APNG', exact: true }).click();
  for (const [ground, headline] of [
    ['Without', 'Agrees without the background: 36 frames, each there once, each in its place.'],
    ['With background', 'Agrees: 36 frames, each there once, each in its place.'],
  ] as const) {
    await page.getByRole('radio', { name: ground }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: `Hand over ${FILM.frames} frames` }).click();
    const bytes = await readFile(await (await download).path());
    await page.getByRole('radio', { name: 'Counting desk' }).click();
    await drop(page, [{ name: `${ground}.png`, type: 'image/png', bytes }]);
    await expect(page.getByTestId('desk-headline')).toHaveText(headline, { timeout: 60_000 });
    await expect(
      page.getByRole('list', { name: ground === 'Without' ? 'Frames of the reel, drawings alone' : 'Frames of the reel' }),
    ).toBeVisible();
    await page.getByRole('radio', { name: 'Hand over' }).click();
  }
});

test('what is chosen while the plan is still being looked at stays chosen', async ({ page, app }) => {
  const id = await makeProject(app.url, FILM, { drawings: FILM.frames, hold: 1 });
  let letGo: () => void = () => undefined;
  const waiting = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  await page.route('**/api/pictures?*', async (route) => {
    await waiting;
    await route.continue();
  });
  await openStage(page, app.url, id, 'hand-over');
  await page.getByRole('radio', { name: 'Counting desk' }).click();
  const looking = page.getByText(/^The plan is being looked at/);
  await expect(looking).toBeVisible();
  const nothing = page.getByRole('button', { name: 'Nothing', exact: true });
  await nothing.click();
  letGo();
  await expect(looking).toBeHidden();
  await expect(nothing).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('button', { name: 'Reel, today' })).toHaveAttribute('aria-pressed', 'false');
});

test('with no project open files are counted, held against each other, and bad ones told among good ones', async ({ page, app }) => {
  const folder = await folderFor();
  const at = (name: string) => path.join(folder, name);
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=24:d=2', '-pix_fmt', 'yuv420p', at('a.mp4'));
  ffmpeg(
    '-i',
    at('a.mp4'),
    '-vf',
    "select='not(eq(n,30))',settb=1/24,setpts=N",
    '-fps_mode',
    'passthrough',
    '-pix_fmt',
    'yuv420p',
    at('b.mp4'),
  );
  ffmpeg('-i', at('a.mp4'), '-vf', 'fps=12,scale=320:-2', at('loop.gif'));
  ffmpeg('-i', at('a.mp4'), '-frames:v', '6', at('row_%03d.png'));
  ffmpeg('-f', 'lavfi', '-i', 'sine=d=1', at('hum.wav'));
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Count a file' }).click();
  await expect(page.getByRole('heading', { name: 'Counting desk' })).toBeVisible();
  const rows = [1, 2, 4, 5, 6].map((number) => at(`row_00${number}.png`));
  const broken = { name: 'broken.mp4', mimeType: 'video/mp4', buffer: (await readFile(at('a.mp4'))).subarray(0, 4000) };
  await page.getByTestId('desk-files').setInputFiles([at('a.mp4'), at('b.mp4'), at('loop.gif'), at('hum.wav'), ...rows]);
  await page.getByTestId('desk-files').setInputFiles([broken]);
  const list = page.getByRole('list', { name: 'On the desk' });
  await expect(list.getByText('counted; held against nothing')).toHaveCount(5, { timeout: 60_000 });
  await expect(list).toContainText('The film has no index (its “moov” box)');
  await expect(list).toContainText('48 fr · 24/1 · 2.000 s · 640 × 360');
  await expect(list).toContainText('24 pictures · 12/1 · 2.010 s · 320 × 180');
  await expect(list).toContainText('5 pictures · 1–6 · 640 × 360');
  await expect(list).toContainText('sound 1.000 s');
  await list.getByRole('button', { name: /^row_###\.png/ }).click();
  await expect(page.getByText('Number 3 is missing.')).toBeVisible();
  await page.getByRole('region', { name: 'Held against' }).getByRole('button', { name: 'a.mp4' }).click();
  await list.getByRole('button', { name: /^b\.mp4/ }).click();
  await expect(page.getByTestId('desk-headline')).toHaveText('From frame 31 on everything is one frame early: frame 31 is missing.');
  await list.getByRole('button', { name: /^loop\.gif/ }).click();
  await expect(page.getByTestId('desk-headline')).toContainText('Only one frame of the plan in 2 is there.');

  // The bench takes half-transparent pictures the other way, and lays sound from another frame: the film it writes has it there.
  ffmpeg('-f', 'lavfi', '-i', 'color=red:s=320x180:r=24:d=0.125', '-vf', 'format=rgba,colorchannelmixer=aa=0.5', at('glass_%03d.png'));
  ffmpeg('-i', at('a.mp4'), '-f', 'lavfi', '-i', 'sine=d=2', '-c:v', 'copy', '-c:a', 'pcm_s16le', at('heard.mov'));
  await page.getByTestId('desk-files').setInputFiles([1, 2, 3].map((number) => at(`glass_00${number}.png`)).concat(at('heard.mov')));
  await expect(list.getByText('3 pictures')).toBeVisible();
  await list.getByRole('button', { name: /^glass_###\.png/ }).click();
  const bench = page.getByRole('region', { name: 'In the editing bench' });
  await bench.getByLabel('Transparency is').selectOption('premultiplied');
  await expect(bench).toContainText('Set transparency to straight: its colours are brighter than premultiplied ones can be.');
  await list.getByRole('button', { name: /^heard\.mov/ }).click();
  await bench.getByLabel('Sound is laid').selectOption('12');
  await expect(bench).toContainText('Lay its sound where its picture begins: it is laid 12 frames later.');
  const written = page.waitForEvent('download');
  await bench.getByRole('button', { name: 'Save this film, to see it' }).click();
  await (await written).saveAs(at('heard_bench.webm'));
  const probe = ['-v', 'error', '-select_streams', 'a', '-show_entries', 'packet=pts_time', '-of', 'csv=p=0', at('heard_bench.webm')];
  const [first] = execFileSync('ffprobe', probe, { encoding: 'utf8' }).split(/[,\s]+/);
  expect(Number(first)).toBeCloseTo(0.5, 1);
});
