import { sampleOfFrame } from '../src/core/document/sound';
import { CONTAINER_CODECS, type Container, SOUND_CODEC_NAMES, SOUND_FRAME_SAMPLES, type SoundCodec } from '../src/core/output/film';
import { SAMPLE_RATE, withClick } from './clicks';
import { expect, openStage, test } from './fixtures';
import { heardByFfmpeg } from './heard';
import { framesByMediainfo } from './mediainfo';
import { probe } from './probe';

/*
 * Every container with every sound it carries, at five rates and lengths, counted by ffprobe and listened to by ffmpeg: a click
 * planted at a sample is heard at that sample of the film.
 */

/** How far from its place a click may come out: coding smears it, and Matroska counts what AAC puts before it in thousandths of a second. */
const SMEARED_SAMPLES: Readonly<Record<SoundCodec, number>> = { aac: 6, opus: 6, flac: 0, pcm: 0 };
const CONTAINER_NAMES: Readonly<Record<Container, string>> = { mp4: 'MP4', mov: 'MOV', webm: 'WebM', mkv: 'MKV' };

/** Every sound of every container, or the first of each; recordings that end before the picture does, and long after it. */
const FILMS = [
  { rate: { num: 12, den: 1 }, frames: 7, startFrame: 3, sounds: 'first', recorded: { sampleRate: 96_000, samplesAfter: 400_000 } },
  { rate: { num: 24000, den: 1001 }, frames: 96, startFrame: 50, sounds: 'all' },
  { rate: { num: 25, den: 1 }, frames: 1, startFrame: 0, sounds: 'first', recorded: { sampleRate: 48_000, samplesAfter: 99_999 } },
  { rate: { num: 30000, den: 1001 }, frames: 997, startFrame: 700, sounds: 'first' },
  { rate: { num: 60000, den: 1001 }, frames: 96, startFrame: 61, sounds: 'first' },
  // AAC of this length is coded in two stretches, the second of which takes over within the frame of the click.
  { rate: { num: 24, den: 1 }, frames: 900, startFrame: 450, sounds: 'first' },
] as const;

/** How far a click is moved by bringing a recording of another rate to that of the mix. */
const RESAMPLED_SAMPLES = 4;

for (const { rate, frames, startFrame, sounds, ...film } of FILMS) {
  test(`films of ${frames} frames at ${rate.num}/${rate.den} hold their sound to the sample, in every container`, async ({ page, app }) => {
    test.setTimeout(240_000);
    const atSample = 300;
    const recorded = 'recorded' in film ? film.recorded : undefined;
    const resampled = recorded?.sampleRate === 96_000 ? RESAMPLED_SAMPLES : 0;
    const projectId = await withClick(app.url, rate, frames, startFrame, atSample, recorded);
    const clickAt = sampleOfFrame(startFrame, rate, SAMPLE_RATE) + atSample;
    const samples = sampleOfFrame(frames, rate, SAMPLE_RATE);
    await openStage(page, app.url, projectId, 'hand-over');
    for (const container of ['mp4', 'mov', 'webm', 'mkv'] as const) {
      await page.getByRole('radio', { name: CONTAINER_NAMES[container], exact: true }).click();
      const carried = CONTAINER_CODECS[container].sound;
      for (const sound of sounds === 'all' ? carried : carried.slice(0, 1)) {
        await page.getByRole('radio', { name: SOUND_CODEC_NAMES[sound], exact: true }).click();
        const download = page.waitForEvent('download');
        await page.getByRole('button', { name: /^Hand over \d/ }).click();
        const file = await (await download).path();
        const what = `${container} with ${sound}`;
        const receipt = page.getByRole('article').first();
        await expect(receipt.getByRole('row', { name: /^sound / }), what).toContainText(sound === 'pcm' ? 'pcm-s24' : sound);
        expect(await receipt.getByTestId('verdict').textContent(), `${what}: ${await receipt.textContent()}`).toBe('agrees');
        expect(probe(file).frames, what).toBe(frames);
        // Of Matroska it works the frames out of the file's length, which AAC makes longer by what it puts after the end.
        if (what !== 'mkv with aac') expect(framesByMediainfo(file), what).toBe(frames);
        const heard = heardByFfmpeg(file);
        const rounded = container === 'mkv' && sound === 'aac' ? SAMPLE_RATE / 2000 : 0;
        expect(Math.abs(heard.clickAt - clickAt), `${what}: click at ${heard.clickAt}, meant ${clickAt}`).toBeLessThanOrEqual(
          SMEARED_SAMPLES[sound] + rounded + resampled,
        );
        const most = SOUND_FRAME_SAMPLES[sound];
        expect(Math.abs(heard.samples - samples), `${what}: ${heard.samples} samples, meant ${samples}`).toBeLessThanOrEqual(most);
      }
    }
  });
}

test('a draft, another rate read as and one brought to on exposures have the frames, the length and the sound that are said', async ({
  page,
  app,
}) => {
  const rate = { num: 24, den: 1 };
  const projectId = await withClick(app.url, rate, 48, 24, 300);
  await openStage(page, app.url, projectId, 'hand-over');
  const handOver = async (sentence: string) => {
    await expect(page.getByText(sentence)).toBeVisible();
    const receipts = await page.getByRole('article').count();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: /^Hand over \d/ }).click();
    const file = await download;
    await expect(page.getByRole('article')).toHaveCount(receipts + 1);
    expect(await page.getByTestId('verdict').first().textContent(), (await page.getByRole('article').first().textContent()) ?? '').toBe(
      'agrees',
    );
    return { path: await file.path(), name: file.suggestedFilename() };
  };
  await page.getByRole('radio', { name: 'MOV', exact: true }).click();
  await page.getByRole('radio', { name: SOUND_CODEC_NAMES.pcm, exact: true }).click();
  await page.getByRole('radio', { name: 'Half, a draft' }).click();
  await page.getByRole('radio', { name: 'Every second, a draft' }).click();
  const draft = await handOver('24 frames at 12 = 2 s exactly');
  expect(draft.name).toBe('click_reel_12_draft.mov');
  expect(probe(draft.path)).toMatchObject({ frames: 24, rate: '12/1', width: 32, height: 18, seconds: 2 });
  expect(heardByFfmpeg(draft.path)).toEqual({ samples: 96_000, clickAt: 48_300 });

  await page.getByRole('radio', { name: 'Full' }).click();
  await page.getByRole('radio', { name: 'Every one' }).click();
  await page.getByRole('radio', { name: 'Read as' }).click();
  await page.getByLabel('Frames a second').fill('12');
  await page.keyboard.press('Enter');
  const readAs = await handOver('48 frames at 12 = 4 s exactly');
  expect(probe(readAs.path)).toMatchObject({ frames: 48, rate: '12/1', width: 64, height: 36, seconds: 4 });
  await expect(page.getByText('no sound fits them')).toBeVisible();

  await page.getByRole('radio', { name: 'On exposures' }).click();
  const converted = await handOver('24 frames at 12 = 2 s exactly');
  expect(probe(converted.path)).toMatchObject({ frames: 24, rate: '12/1', seconds: 2 });
  expect(heardByFfmpeg(converted.path)).toEqual({ samples: 96_000, clickAt: 48_300 });
});

test('a film whose recording is missing is not written as if it were silent: the sound is named', async ({ page, app }) => {
  const projectId = await withClick(app.url, { num: 24, den: 1 }, 24, 3, 300);
  await page.route('**/api/originals/**', (route) => route.fulfill({ status: 404, body: '{}', headers: { 'lime-tick': '1' } }));
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('button', { name: 'Hand over 24 frames' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'The recording of Click is missing' })).toContainText('Nothing was written');
  await expect(page.getByRole('article')).toHaveCount(0);
  await page.getByRole('radio', { name: 'No sound' }).click();
  await page.getByRole('button', { name: 'Hand over 24 frames' }).click();
  await expect(page.getByTestId('verdict')).toHaveText(['agrees']);
});
