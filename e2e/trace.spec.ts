import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { column, expect, goToFrame, openStage, stroke, test, untilKept } from './fixtures';
import { emptyProject, pictureSvg, projectOnServer } from './projects';

const SIZE = { width: 320, height: 180 };
const FILM = { title: 'Traced', rate: { num: 24, den: 1 }, size: SIZE, frames: 24 };

/** A clip written by ffmpeg: a drawn picture for each number, the same number again for a repeat. */
async function clipOf(pictures: readonly number[], perSecond: number, name: string, codec: readonly string[]): Promise<Buffer> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-clip-'));
  const file = path.join(folder, name);
  const frames = await Promise.all(
    pictures.map((index) =>
      sharp(Buffer.from(pictureSvg(index * 7, 0, SIZE)))
        .flatten({ background: '#ffffff' })
        .ensureAlpha()
        .raw()
        .toBuffer(),
    ),
  );
  const input = ['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', '320x180', '-r', String(perSecond), '-i', '-'];
  execFileSync('ffmpeg', [...input, ...codec, '-pix_fmt', 'yuv420p', file], { input: Buffer.concat(frames) });
  const bytes = await readFile(file);
  await rm(folder, { recursive: true });
  return bytes;
}

async function choose(page: Page, name: string, buffer: Buffer): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+i');
  await (await chooser).setFiles([{ name, mimeType: 'video/mp4', buffer }]);
}

/** Twelve frames of which the fourth, eighth and twelfth repeat the one before. */
const EVERY_FOURTH = [0, 1, 2, 2, 3, 4, 5, 5, 6, 7, 8, 8];

test('a clip with planted repeats is traced over: repeats are found, passed over when stepping, and never leave', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  await choose(page, 'wind_test.mp4', await clipOf(EVERY_FOURTH, 24, 'wind.mp4', ['-c:v', 'libx264', '-crf', '18']));
  const dialog = page.getByRole('dialog', { name: 'Trace over a clip' });
  await expect(dialog.getByText('12 frames at 24 frames a second. 3 of 12 pictures repeat the one before: every 4th.')).toBeVisible();
  await dialog.getByRole('checkbox', { name: 'An empty drawing for every picture' }).check();
  await expect(dialog.getByText('Guide Wind test: 9 pictures on frames 1–12, with 9 empty drawings to go with them')).toBeVisible();
  await dialog.getByRole('button', { name: 'Trace over it' }).click();
  await expect(dialog).toHaveCount(0);
  const traced = '1 2 3*2 5 6 7*2 9 10 11*2 .*12'.replace(/(^| )(\d+)(?= |$)/g, '$1$2*1');
  await expect.poll(() => column(page, 'Wind test')).toBe(traced);
  await expect.poll(() => column(page, 'Wind test drawn')).toBe(traced);
  await untilKept(page);

  await goToFrame(page, 3);
  await expect(page.getByText('Wind test 3 · picture')).toBeVisible();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByTestId('frame-now')).toHaveText('5');
  await expect(page.getByText('Wind test 5 · picture')).toBeVisible();
  await page.keyboard.press('Alt+o');
  await expect(page.getByText('Wind test 5 · lines')).toBeVisible();
  await page
    .getByRole('button', { name: /^Wind test drawn/ })
    .first()
    .click();
  await stroke(page, [
    [0.3, 0.3],
    [0.7, 0.6],
  ]);
  await untilKept(page);
  const { shots } = await projectOnServer(app.url, projectId);
  const drawn = shots[0]?.levels.find(({ name }) => name === 'Wind test drawn');
  expect(drawn?.drawings.filter((drawing) => drawing.picture !== null).map((drawing) => drawing.number)).toEqual(['5']);
  // One drawing stands on one frame, all others are blank: with the guide there would be nine pictures more.
  await page.goto(`${app.url}/projects/${projectId}/hand-over`);
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('button', { name: /^Hand over 24 frames/ }).click();
  await expect(page.getByRole('article').first()).toContainText('2 pictures made');
});

test('a clip at another rate is converted or read frame for frame, as told; one that is none is refused', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const clip = await clipOf([0, 1, 2, 3, 4, 5, 6, 7, 8, 9], 30, 'half.webm', ['-c:v', 'libvpx-vp9', '-b:v', '0', '-crf', '20']);
  await choose(page, 'half.webm', clip);
  const dialog = page.getByRole('dialog', { name: 'Trace over a clip' });
  // Ten frames at 30 a second are a third of a second: eight frames at 24.
  await expect(dialog.getByText('Guide Half: 8 pictures on frames 1–8')).toBeVisible();
  await expect(dialog.getByText('Frames of the clip that no frame of the film shows: 3, 8.')).toBeVisible();
  await dialog.getByRole('radio', { name: 'Frame for frame' }).click();
  await expect(dialog.getByText('Guide Half: 10 pictures on frames 1–10')).toBeVisible();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('columnheader', { name: /^Half/ })).toHaveCount(0);

  await choose(page, 'broken.mp4', clip.subarray(0, 300));
  await expect(dialog.getByRole('alert')).toBeVisible();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-clip-'));
  const silent = path.join(folder, 'hum.m4a');
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'sine=duration=1', silent]);
  await choose(page, 'hum.mp4', await readFile(silent));
  await expect(dialog.getByRole('alert')).toContainText('There is no picture in this clip, only sound.');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  const uneven = path.join(folder, 'uneven.mp4');
  const pattern = [
    '-f',
    'lavfi',
    '-i',
    'testsrc=size=320x180:rate=24:duration=1',
    '-vf',
    'settb=1/1000,setpts=PTS+mod(N\\,3)*12',
    '-vsync',
    'vfr',
  ];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...pattern, '-c:v', 'libx264', '-pix_fmt', 'yuv420p', uneven]);
  await choose(page, 'uneven.mp4', await readFile(uneven));
  await expect(dialog.getByText(/24 frames at a rate that varies: its frames last \d+ to \d+ ms\./)).toBeVisible();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await rm(folder, { recursive: true });
  await choose(page, 'words.mp4', Buffer.from('these are words and no clip at all'));
  await expect(dialog.getByRole('alert')).toContainText('It is not a clip that can be read');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
});

for (const [perSecond, count, frames, pattern] of [
  [30, 40, 50, 'every 5th'],
  [25, 52, 54, 'every 25th'],
] as const)
  test(`a clip stepped evenly from 24 to ${perSecond} has its pattern named by Check, and its rate told`, async ({ page, app }) => {
    const projectId = await emptyProject(app.url, FILM);
    await openStage(page, app.url, projectId, 'draw');
    const pictures = Array.from({ length: count }, (_, index) => index);
    const clip = await clipOf(pictures, 24, 'even.mp4', ['-vf', `fps=${perSecond}`, '-c:v', 'libx264', '-crf', '16']);
    await choose(page, 'even.mp4', clip);
    const dialog = page.getByRole('dialog', { name: 'Trace over a clip' });
    await expect(dialog.getByText(new RegExp(`^${frames} frames at ${perSecond} frames a second\\. .*: ${pattern}[,.]`))).toBeVisible();
    await dialog.getByRole('radio', { name: /^Frame for frame/ }).click();
    await dialog.getByRole('button', { name: 'Trace over it' }).click();
    await untilKept(page);
    await page.keyboard.press('Alt+3');
    const findings = page.getByRole('region', { name: 'Findings' });
    await expect(
      findings.getByText(new RegExp(`repeat the one before: ${pattern}, (but for frame [\\d, ]+, )?first on frame`)),
    ).toBeVisible();
    await expect(
      findings.getByText(`Guide Even was made at ${perSecond} pictures a second and is read frame for frame at 24`),
    ).toBeVisible();
    await expect(page.getByRole('button', { name: 'Plan to Draw: counts disagree. Show why' })).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(findings.getByText(/Guide Even/)).toHaveCount(0);
  });
