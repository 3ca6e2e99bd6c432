import { execFileSync } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import sharp from 'sharp';
import { expect, openStage, test } from './fixtures';
import { probe } from './probe';
import { makeProject } from './projects';

const FILMS = [
  { frames: 96, rate: { num: 24, den: 1 }, fraction: '24/1', seconds: 4, cores: 8 },
  { frames: 97, rate: { num: 24000, den: 1001 }, fraction: '24000/1001', seconds: (97 * 1001) / 24000, cores: 8 },
  { frames: 18, rate: { num: 12, den: 1 }, fraction: '12/1', seconds: 1.5, cores: 2 },
  { frames: 1530, rate: { num: 30, den: 1 }, fraction: '30/1', seconds: 51, cores: 8 },
] as const;

for (const { frames, rate, fraction, seconds, cores } of FILMS) {
  test(`a film of ${frames} frames at ${fraction} is counted alike by its receipt and by ffprobe`, async ({ page, app }) => {
    const projectId = await makeProject(
      app.url,
      { title: 'Counted', rate, size: { width: 320, height: 180 }, frames },
      { drawings: Math.min(24, Math.ceil(frames / 2)), hold: 2 },
    );
    // With a core to spare a film is decoded while it is written, and what the file holds is held to that.
    await page.addInitScript((count) => Object.defineProperty(navigator, 'hardwareConcurrency', { get: () => count }), cores);
    await openStage(page, app.url, projectId, 'hand-over');
    for (const kind of ['MP4', 'WebM']) {
      await page.getByRole('radio', { name: kind, exact: true }).click();
      const download = page.waitForEvent('download');
      await page.getByRole('button', { name: /^Hand over \d/ }).click();
      const receipt = page.getByRole('article').first();
      const file = await download;
      await expect(receipt).toContainText(file.suggestedFilename());
      await expect(receipt.getByTestId('verdict')).toHaveText('agrees');
      const whileWriting = 'the packets in the file are the very same, by their SHA-256';
      if (cores > 2) await expect(receipt).toContainText(whileWriting);
      else await expect(receipt).not.toContainText(whileWriting);
      await expect(receipt.getByRole('row', { name: `frames ${frames} ${frames}`, exact: true })).toBeVisible();
      await expect(receipt.getByRole('row', { name: `rate ${fraction} ${fraction}` })).toBeVisible();
      const probed = probe(await file.path());
      expect(probed.frames).toBe(frames);
      expect(probed.times).toHaveLength(frames);
      expect(probed.range).toBe('tv');
      const mp4 = kind === 'MP4';
      if (mp4) expect(probed.rate).toBe(fraction);
      const tolerance = mp4 ? 0.000_002 : 0.001;
      expect(Math.abs(probed.seconds - seconds)).toBeLessThan(tolerance);
      for (const [index, time] of probed.times.entries()) expect(Math.abs(time - (index * rate.den) / rate.num)).toBeLessThan(tolerance);
    }
  });
}

/** What ffprobe says of a film in the sections asked for. */
const ffprobe = (file: string, ...sections: string[]) =>
  JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-of', 'json', ...sections, file], { encoding: 'utf8' })) as {
    packets?: { flags: string }[];
    streams?: { codec_name: string; codec_type: string; tags?: Record<string, string> }[];
    format?: { tags?: Record<string, string> };
  };

/** The frames (from 0) that ffprobe says are key frames. */
const keyFramesIn = (file: string): readonly number[] =>
  (ffprobe(file, '-select_streams', 'v:0', '-show_entries', 'packet=flags').packets ?? []).flatMap(({ flags }, frame) =>
    flags.startsWith('K') ? [frame] : [],
  );

async function handOverOnce(page: Page): Promise<string> {
  const download = page.waitForEvent('download');
  const receipts = await page.getByRole('article').count();
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  const file = await (await download).path();
  await expect(page.getByRole('article')).toHaveCount(receipts + 1);
  await expect(page.getByTestId('verdict').first()).toHaveText('agrees');
  return file;
}

test('key frames, codecs and what a file says of itself are as asked, by ffprobe', async ({ page, app }) => {
  const projectId = await makeProject(
    app.url,
    { title: 'Asked', rate: { num: 24, den: 1 }, size: { width: 64, height: 36 }, frames: 24 },
    { drawings: 6, hold: 4 },
  );
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'MKV', exact: true }).click();
  await page.getByRole('radio', { name: 'AV1' }).click();
  await page.getByLabel('Key frames').selectOption({ label: 'each new drawing' });
  await page.getByText('What the file says of itself').click();
  for (const [label, text] of [
    ['Title', 'Socks'],
    ['Language, three letters (und: not said)', 'nob'],
    ['Timecode of the first frame', '01:00:00:00'],
  ] as const) {
    await page.getByLabel(label).fill(text);
    await page.keyboard.press('Enter');
  }
  const mkv = await handOverOnce(page);
  expect(keyFramesIn(mkv)).toEqual([0, 4, 8, 12, 16, 20]);
  const told = ffprobe(mkv, '-show_streams', '-show_format');
  // Matroska's tags are those of the movie, which ffprobe says before their names.
  expect(told.format?.tags).toMatchObject({ 'MOVIE/TITLE': 'Socks', 'MOVIE/TIMECODE': '01:00:00:00' });
  expect(told.streams?.[0]).toMatchObject({ codec_name: 'av1', tags: { language: 'nob', title: 'Picture' } });
  await page.getByRole('radio', { name: 'MOV', exact: true }).click();
  await page.getByRole('radio', { name: 'H.264' }).click();
  await page.getByLabel('Key frames').selectOption({ label: 'all frames (intra)' });
  await page.getByLabel('Quality').selectOption({ label: 'by bit rate' });
  const mov = await handOverOnce(page);
  expect(keyFramesIn(mov)).toHaveLength(24);
  expect(ffprobe(mov, '-show_streams').streams?.[0]?.codec_name).toBe('h264');
  await page.getByLabel('Key frames').selectOption({ label: 'every n frames' });
  await page.getByRole('textbox', { name: 'Frames', exact: true }).fill('10');
  await page.keyboard.press('Enter');
  expect(keyFramesIn(await handOverOnce(page))).toEqual([0, 10, 20]);
});

test('without a background WebM and MKV keep their transparency, as ffmpeg reads it', async ({ page, app }) => {
  const size = { width: 320, height: 180 };
  const projectId = await makeProject(app.url, { title: 'Clear', rate: { num: 24, den: 1 }, size, frames: 12 }, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Without' }).click();
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  const zip = new ZipReader(new BlobReader(new Blob([await readFile(await handOverOnce(page))])));
  const [first] = (await zip.getEntries()).filter((entry) => entry.filename.endsWith('.png'));
  if (!first || first.directory) throw new Error('The ZIP holds no picture.');
  const meant = await sharp(await first.getData(new Uint8ArrayWriter()))
    .ensureAlpha()
    .raw()
    .toBuffer();
  for (const kind of ['WebM', 'MKV']) {
    await page.getByRole('radio', { name: kind, exact: true }).click();
    await page.getByRole('radio', { name: 'Transparent' }).click();
    const film = await handOverOnce(page);
    const read = execFileSync('ffmpeg', [
      '-v',
      'error',
      '-c:v',
      'libvpx-vp9',
      '-i',
      film,
      '-frames:v',
      '1',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-',
    ]);
    let [alphaApart, clear, seen] = [0, 0, 0];
    for (let at = 3; at < meant.length; at += 4) {
      alphaApart += Math.abs((meant[at] as number) - (read[at] as number));
      if (meant[at] === 0) clear++;
      if (meant[at] === 255) seen++;
    }
    expect([clear > 100, seen > 100], kind).toEqual([true, true]);
    expect(alphaApart / (size.width * size.height), kind).toBeLessThan(6);
  }
});
