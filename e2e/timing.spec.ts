import { execFileSync } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import type { Project } from '../src/core/document/model';
import { sampleOfFrame } from '../src/core/document/sound';
import { withClick } from './clicks';
import { column, expect, openStage, test } from './fixtures';
import { projectOnServer, sendSteps } from './projects';

/* The timing of the reel in files that other software reads, and a whole project in one file. */

async function saved(page: Page, name: string | RegExp): Promise<{ path: string; fileName: string }> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name, exact: typeof name === 'string' }).click();
  const file = await download;
  return { path: await file.path(), fileName: file.suggestedFilename() };
}

test('the reel leaves as a timeline, a list, words and sound, each read back before it is given', async ({ page, app }) => {
  const rate = { num: 24, den: 1 };
  const projectId = await withClick(app.url, rate, 48, 24, 300);
  const shotId = (await projectOnServer(app.url, projectId)).shots[0]?.id ?? '';
  await sendSteps(app.url, projectId, [
    {
      type: 'setNotes',
      shotId,
      notes: [
        { frame: 12, kind: 'word', words: 'Plop' },
        { frame: 24, kind: 'accent', words: 'splash' },
      ],
    },
  ]);
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByText('The timing, for other software').click();
  await page.getByRole('radio', { name: '01:00:00:00' }).click();

  const otio = await saved(page, 'Timeline (OpenTimelineIO)');
  await expect(page.getByText('Read back: 1 clip and 1 sound, each on its frames, as the reel has them.')).toBeVisible();
  const timeline = JSON.parse(await readFile(otio.path, 'utf8')) as { OTIO_SCHEMA: string; global_start_time: { value: number } };
  expect(timeline).toMatchObject({ OTIO_SCHEMA: 'Timeline.1', global_start_time: { value: 86_400 } });

  const edl = await readFile((await saved(page, 'Edit list (EDL)')).path, 'utf8');
  expect(edl).toContain('001  010      V     C        00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00');

  // As it left it is the reel; shortened elsewhere, what is different is shown, taken and undone.
  const file = page.getByLabel('A timeline or an edit list');
  await file.setInputFiles({ name: 'same.edl', mimeType: 'text/plain', buffer: Buffer.from(edl) });
  await expect(page.getByRole('dialog')).toContainText('It is the reel: every item and sound is on its frames.');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).first().click();
  const shorter = edl.replace('00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00', '00:00:00:06 00:00:01:06 01:00:00:00 01:00:01:00');
  await file.setInputFiles({ name: 'shorter.edl', mimeType: 'text/plain', buffer: Buffer.from(shorter) });
  await expect(page.getByRole('dialog')).toContainText('010 shows frames 7–30, was frames 1–48.');
  await page.getByRole('button', { name: 'Take all of them' }).click();
  await expect(page.getByRole('button', { name: 'Hand over 24 frames' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Hand over 48 frames' })).toBeVisible();
  await file.setInputFiles({ name: 'broken.edl', mimeType: 'text/plain', buffer: Buffer.from('001 nonsense') });
  await expect(page.getByRole('dialog')).toContainText('broken.edl: Line 1 is no event: “001 nonsense”. Nothing was changed.');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).first().click();

  const srt = await readFile((await saved(page, 'SubRip')).path, 'utf8');
  expect(srt.replaceAll('\r\n', '\n')).toBe('1\n00:00:00,500 --> 00:00:01,000\nPlop\n\n2\n00:00:01,000 --> 00:00:02,000\n[splash]\n');

  for (const [button, name] of [
    ['This frame (OpenRaster)', 'click_010_1.ora'],
    ['This level’s drawings', 'click_010_level-1.ora'],
  ] as const) {
    const ora = await saved(page, button);
    expect(ora.fileName).toBe(name);
    expect((await readFile(ora.path)).subarray(30, 54).toString()).toBe('mimetypeimage/openraster');
  }
  await expect(page.getByText('12 layers.')).toBeVisible();

  const details = await readFile((await saved(page, 'Charts and sounds as CSV')).path, 'utf8');
  expect(details).toContain('sound,,,,,,,Click,click.wav,25,0,700,0,0,0,no');

  const wav = await saved(page, 'Mix as WAV');
  expect(wav.fileName).toBe('click_mix.wav');
  const told = (flag: string) => Number(execFileSync('sox', ['--i', flag, wav.path], { encoding: 'utf8' }));
  expect([told('-s'), told('-b'), told('-r'), told('-c')]).toEqual([sampleOfFrame(48, rate, 48_000), 24, 48_000, 2]);
  const raw = execFileSync('sox', [wav.path, '-t', 'f32', '-c', '1', '-'], { maxBuffer: 1 << 26 });
  const samples = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
  expect(samples.findIndex((value) => Math.abs(value) > 0.3)).toBe(48_300);
});

test('a whole project leaves as one file and comes back identical, beside the one that is there', async ({ page, app }) => {
  const projectId = await withClick(app.url, { num: 24, den: 1 }, 24, 3, 300);
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByLabel('The package with every change it was made by').check();
  const own = await saved(page, 'Save as a package');
  expect(own.fileName).toBe('click.limetick');
  await expect(page.getByText(/^click\.limetick saved,/)).toBeVisible();

  await page.goto(app.url);
  await page.getByLabel('A package').setInputFiles(own.path);
  await expect(page.getByRole('dialog')).toContainText(
    /Click: 1 shot, 24 frames, 12 pictures, 1 file that was brought in, \d+ changes it was made by\./,
  );
  await expect(page.getByRole('dialog')).toContainText('The project on your shelf is just the same.');
  await page.getByRole('button', { name: 'Bring in as a project' }).click();
  await expect(page).toHaveURL(/\/projects\/(?!.*\/hand-over)[^/]+\/plan(\?|$)/);
  const broughtId = /projects\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  expect(broughtId).not.toBe(projectId);
  const plain = ({ id: _id, ...project }: Project) => project;
  expect(plain(await projectOnServer(app.url, broughtId))).toEqual(plain(await projectOnServer(app.url, projectId)));

  // One that is cut is refused with a sentence, and the shelf is as it was.
  await page.goto(app.url);
  const cards = page.getByRole('list', { name: 'Projects' }).getByRole('listitem');
  await expect(cards.first()).toBeVisible();
  const count = await cards.count();
  const whole = await readFile(own.path);
  await page.getByLabel('A package').setInputFiles({ name: 'cut.limetick', mimeType: 'application/zip', buffer: whole.subarray(0, 4000) });
  await expect(page.getByRole('dialog')).toContainText('It is not a whole ZIP: it was cut, or is something else. Nothing was changed.');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(cards).toHaveCount(count);

  // The drawings alone are files anyone can open, and come back as a project of their own.
  await openStage(page, app.url, projectId, 'hand-over');
  const drawings = await saved(page, 'Drawings alone, with their exposures');
  expect(drawings.fileName).toBe('click-drawings.zip');
  const listed = execFileSync('unzip', ['-t', drawings.path], { encoding: 'utf8' });
  expect(listed.match(/1_010\/1_level-1\/\d+\.png/g)).toHaveLength(12);
  await page.goto(app.url);
  await page.getByLabel('A package').setInputFiles(drawings.path);
  await expect(page.getByRole('dialog')).toContainText('Click: 1 shot, 24 frames, 12 pictures.');
  await page.getByRole('button', { name: 'Bring in as a project' }).click();
  await expect(page).toHaveURL(/\/projects\/(?!.*\/hand-over)[^/]+\/plan(\?|$)/);
  const drawn = await projectOnServer(app.url, /projects\/([^/]+)\//.exec(page.url())?.[1] ?? '');
  const original = await projectOnServer(app.url, projectId);
  const pictures = (project: Project) =>
    project.shots.flatMap(({ levels }) => levels.flatMap((level) => level.drawings.map((each) => each.picture)));
  expect(pictures(drawn)).toEqual(pictures(original));
  await expect.poll(() => column(page, 'Level 1')).toBe(Array.from({ length: 12 }, (_, index) => `${index + 1}*2`).join(' '));
});

test('a sheet is printed with its sound and words of any script; drawings leave as a contact sheet, on paper and as one picture', async ({
  page,
  app,
}) => {
  const projectId = await withClick(app.url, { num: 24, den: 1 }, 24, 6, 300);
  const [shot] = (await projectOnServer(app.url, projectId)).shots;
  await sendSteps(app.url, projectId, [
    { type: 'setNotes', shotId: shot?.id ?? '', notes: [{ frame: 12, kind: 'word', words: '洗濯の日 — يوم الغسيل' }] },
  ]);
  await openStage(page, app.url, projectId, 'plan');
  await page.keyboard.press('Control+p');
  await expect(page.getByText('24 frames and 1 level, 1 sound on 1 page.')).toBeVisible();
  const sheet = await saved(page, 'Print as PDF');
  const text = execFileSync('pdftotext', ['-layout', sheet.path, '-'], { encoding: 'utf8' });
  expect(text).toContain('Sound');
  expect(text).toContain('Click');
  // The word is a picture on the page.
  expect(execFileSync('pdfimages', ['-list', sheet.path], { encoding: 'utf8' })).toMatch(/^ +1 +0 image/m);

  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByText('The timing, for other software').click();
  const paper = await saved(page, 'Contact sheet (PDF)');
  expect(execFileSync('pdftotext', ['-layout', paper.path, '-'], { encoding: 'utf8' })).toContain(
    '12 drawings, 12 drawn; 24 frames at 24/1',
  );
  expect(execFileSync('pdfimages', ['-list', paper.path], { encoding: 'utf8' }).match(/ jpeg /g)?.length).toBe(12);
  const picture = await saved(page, 'Contact sheet (PNG)');
  await expect(page.getByText('12 drawings, each once, 12 drawn.')).toBeVisible();
  const { width, height, format } = await sharp(picture.path).metadata();
  expect([format, width > 800, height > 600]).toEqual(['png', true, true]);
  expect((await sharp(picture.path).stats()).channels[0]?.stdev ?? 0).toBeGreaterThan(5);
});
