import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { newSound } from '../src/core/document/sound';
import { writeWav } from '../src/core/format/wav/writeWav';
import { expect, goToFrame, openStage, test, untilKept } from './fixtures';
import { emptyProject, projectOnServer, sendSteps } from './projects';

const FILM = { title: 'Heard', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 24 };

/** A recording that is silent but for one sample. */
function click(atSample: number, samples: number, sampleRate = 48_000): Buffer {
  const channel = new Float32Array(samples);
  channel[atSample] = 0.9;
  return Buffer.from(writeWav([channel], sampleRate, 'float32'));
}

async function bring(page: Page, ...files: { name: string; buffer: Buffer }[]): Promise<void> {
  await expect(page.getByRole('grid')).toBeVisible();
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Alt+b');
  await (await chooser).setFiles(files.map((file) => ({ ...file, mimeType: 'audio/wav' })));
}

/** A project whose only shot has one sound of these bytes from a frame on (from 0), without a window being asked. */
async function projectWith(
  url: string,
  wav: Buffer,
  startFrame: number,
  counted: { samples: number; sampleRate?: number },
  frames = 24,
): Promise<string> {
  const projectId = await emptyProject(url, { ...FILM, frames });
  const response = await fetch(`${url}/api/projects/${projectId}/recordings?name=click.wav`, { method: 'POST', body: new Uint8Array(wav) });
  const { original } = (await response.json()) as { original: string };
  const recording = { original, fileName: 'click.wav', sampleRate: counted.sampleRate ?? 48_000, samples: counted.samples, channels: 1 };
  const shotId = (await projectOnServer(url, projectId)).shots[0]?.id ?? '';
  await sendSteps(url, projectId, [{ type: 'addSound', shotId, sound: newSound('click', 'Click', recording, startFrame), index: 0 }]);
  return projectId;
}

/** What was given out to be heard: when, from where in its buffer on, how fast, and where the buffer's loudest sample lies. */
type Given = {
  readonly when: number;
  readonly offset: number;
  readonly rate: number;
  readonly length: number;
  readonly loudestAt: number;
  readonly loudest: number;
};

/** Takes note of everything that is given out to be heard. */
const listenIn = (page: Page) =>
  page.addInitScript(() => {
    const given: Given[] = [];
    Object.assign(window, { given });
    const { start } = AudioBufferSourceNode.prototype;
    AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0, duration?: number) {
      // Mixing has sources of its own; what is heard goes to the machine.
      if (this.context instanceof AudioContext && this.buffer) {
        const samples = this.buffer.getChannelData(0);
        let loudestAt = 0;
        for (let at = 0; at < samples.length; at++)
          if (Math.abs(samples[at] as number) > Math.abs(samples[loudestAt] as number)) loudestAt = at;
        const loudest = samples[loudestAt] as number;
        given.push({ when, offset, rate: this.playbackRate.value, length: samples.length, loudestAt, loudest });
      }
      if (duration === undefined) start.call(this, when, offset);
      else start.call(this, when, offset, duration);
    };
  });
const heardBy = (page: Page) => page.evaluate(() => (window as unknown as { given: Given[] }).given);

/** What Lime Tick's own answers carry; a page believes no other. */
const OWN = { 'lime-tick': '1' };

test('a recording is brought in, counted, moved, trimmed, made softer and muted; every change can be undone', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'plan');
  await goToFrame(page, 5);
  await bring(page, { name: 'soft_plop.wav', buffer: click(3_000, 24_000) }, { name: 'odd.wav', buffer: Buffer.from('no sound at all') });
  const dialog = page.getByRole('dialog', { name: 'Bring in a recording' });
  await expect(
    dialog.getByText('soft_plop.wav 24,000 samples at 48,000 a second, 1 channel: 0.500 s = 12 frames exactly at 24'),
  ).toBeVisible();
  await expect(dialog.getByRole('alert')).toHaveText(/odd\.wav: It is not a recording that can be read/);
  await expect(dialog.getByText('Soft plop is heard on frames 5–16 of shot 010.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('gridcell', { name: 'Sound Soft plop, frames 5 to 16' })).toBeVisible();

  // A drag on the sheet, three rows down.
  const block = page.getByRole('gridcell', { name: /^Sound Soft plop/ });
  const box = await block.boundingBox();
  if (!box) throw new Error('The sound is not on the sheet.');
  await page.mouse.move(box.x + 5, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 5, box.y + 30 + 3 * 17, { steps: 5 });
  await expect(page.getByText('Soft plop 3 frames later: frames 8–19')).toBeVisible();
  await page.mouse.up();
  await expect(page.getByRole('gridcell', { name: 'Sound Soft plop, frames 8 to 19' })).toBeVisible();

  await page.keyboard.press('Alt+m');
  const sounds = page.getByRole('dialog', { name: 'Sounds of shot 010' });
  const fill = async (label: string, text: string) => {
    await sounds.getByLabel(label, { exact: true }).fill(text);
    await page.keyboard.press('Enter');
  };
  await fill('Frames trimmed from the start of Soft plop', '2');
  await expect(sounds.getByText('0.417 s · 10 frames, 10–19')).toBeVisible();
  await fill('Frames trimmed from the end of Soft plop', '1');
  await fill('Frame Soft plop starts on', '3');
  await fill('Level of Soft plop in dB', '-6');
  await sounds.getByRole('button', { name: 'Mute Soft plop' }).click();
  await expect(sounds.getByText('0.375 s · 9 frames, 3–11')).toBeVisible();
  await fill('Frames trimmed from the end of Soft plop', '12');
  await expect(page.getByText('that much can’t be trimmed from it')).toBeVisible();
  await page.keyboard.press('Escape');
  await untilKept(page);
  const kept = (await projectOnServer(app.url, projectId)).shots[0]?.sounds[0];
  expect(kept).toMatchObject({ startFrame: 2, fromSample: 4_000, samples: 18_000, gainDecibels: -6, muted: true });
  for (let undone = 0; undone < 6; undone++) await page.keyboard.press('Control+z');
  await expect(page.getByRole('gridcell', { name: 'Sound Soft plop, frames 5 to 16' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(block).toHaveCount(0);
});

test('recordings of every kind are decoded to the samples ffmpeg counts', async ({ page, app }) => {
  // Before ffmpeg is waited for: a connection that lies idle meanwhile is closed by the server.
  const projectId = await emptyProject(app.url, FILM);
  const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-sound-'));
  const source = path.join(folder, 'source.wav');
  const channel = Float32Array.from({ length: 44_100 }, (_, index) => 0.5 * Math.sin(index * 0.06));
  writeFileSync(source, writeWav([channel, channel.map((value) => -value)], 44_100, 'int16'));
  const made = (name: string, ...codec: string[]) => {
    const file = path.join(folder, name);
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', source, ...codec, file]);
    const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'f32le', '-'], { maxBuffer: 1 << 28 });
    return { name, buffer: readFileSync(file), samples: raw.length / 8 };
  };
  // Kinds that keep every sample; those that don't add some of their own, and programs differ in how many they take off again.
  const exact = [made('a.wav', '-c:a', 'pcm_s24le'), made('b.flac', '-c:a', 'flac'), made('c.wav', '-c:a', 'pcm_f32le')];
  const lossy = [
    { ...made('d.ogg', '-c:a', 'libvorbis'), most: 2_048 },
    { ...made('e.opus', '-c:a', 'libopus', '-ar', '48000'), most: 2_880 },
    { ...made('f.mp3', '-c:a', 'libmp3lame'), most: 2_304 + 1_105 },
    { ...made('g.m4a', '-c:a', 'aac'), most: 2_048 },
  ];
  rmSync(folder, { recursive: true });
  await openStage(page, app.url, projectId, 'plan');
  await bring(page, ...[...exact, ...lossy].map(({ name, buffer }) => ({ name, buffer })));
  const dialog = page.getByRole('dialog', { name: 'Bring in a recording' });
  await expect(dialog.getByText('7 sounds start on frame 1 of shot 010.')).toBeVisible();
  await expect(dialog.getByRole('alert')).toHaveCount(0);
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await untilKept(page);
  const sounds = (await projectOnServer(app.url, projectId)).shots[0]?.sounds ?? [];
  const counted = (name: string) => sounds.find((sound) => sound.recording.fileName === name)?.recording;
  for (const { name, samples } of exact) {
    expect(samples).toBe(44_100);
    expect([name, counted(name)?.samples, counted(name)?.sampleRate, counted(name)?.channels]).toEqual([name, samples, 44_100, 2]);
  }
  for (const { name, samples, most } of lossy) {
    expect(counted(name)?.channels).toBe(2);
    expect([name, Math.abs((counted(name)?.samples ?? 0) - samples) <= most]).toEqual([name, true]);
  }
});

test('every sample is heard with its frame: forwards, backwards, slower, and of a recording at another rate', async ({ page, app }) => {
  // The click lies 12,000 samples into a sound from frame 4 on: 4 · 2,000 + 12,000 = sample 20,000 of the shot, the start of frame 10.
  const projectId = await projectWith(app.url, click(12_000, 20_000), 4, { samples: 20_000 });
  await listenIn(page);
  await openStage(page, app.url, projectId, 'check');
  const played = async (start: () => Promise<void>) => {
    const before = (await heardBy(page)).length;
    await start();
    await expect.poll(async () => (await heardBy(page)).length).toBeGreaterThan(before);
    await expect(page.getByText('late, by the sound')).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
    return (await heardBy(page)).slice(before);
  };
  await page.keyboard.press('Home');
  const [forwards] = await played(() => page.keyboard.press('Space'));
  expect(forwards).toMatchObject({ offset: 0, rate: 1, length: 48_000, loudestAt: 20_000 });
  expect(forwards?.loudest).toBeCloseTo(0.9, 5);

  await page.keyboard.press('End');
  const [backwards] = await played(() => page.keyboard.press('Shift+Space'));
  expect(backwards).toMatchObject({ rate: 1, length: 48_000, loudestAt: 48_000 - 1 - 20_000 });

  await page.keyboard.press('Home');
  await page.getByRole('radio', { name: '½×' }).click();
  const [slower] = await played(() => page.getByRole('button', { name: 'Play forwards' }).click());
  expect(slower).toMatchObject({ rate: 0.5, length: 48_000, loudestAt: 20_000 });

  // A frame that is stepped to is heard alone.
  await page.getByRole('radio', { name: '1×', exact: true }).click();
  await page.getByRole('grid').focus();
  await goToFrame(page, 10);
  await page.keyboard.press('ArrowDown');
  // What was stepped over a moment ago may still be given out: the last one is this frame's.
  await expect.poll(async () => (await heardBy(page)).at(-1)).toMatchObject({ length: 2_000, loudestAt: 0 });
  const before = (await heardBy(page)).length;
  // Nothing sounds on the frame before last of the shot, and nothing is given out.
  await page.keyboard.press('End');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByTestId('frame-now')).toHaveText('23');
  // The frame before may still be on its way; of silent ones nothing is.
  expect((await heardBy(page)).slice(before).filter(({ loudest }) => loudest === 0)).toEqual([]);

  const old = await projectWith(app.url, click(11_025, 22_050, 44_100), 4, { samples: 22_050, sampleRate: 44_100 });
  await openStage(page, app.url, old, 'plan');
  await expect(page.getByRole('gridcell', { name: /^Sound Click/ })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByText('late, by the sound')).toBeVisible();
  const [resampled] = await heardBy(page);
  // A quarter of a second into a sound from frame 4 on: sample 8,000 + 12,000, give or take what changing the rate rounds.
  expect(Math.abs((resampled?.loudestAt ?? 0) - 20_000)).toBeLessThanOrEqual(1);
});

test('frames come by the clock of the sound, and by the page’s when no sound comes out', async ({ page, app }) => {
  const projectId = await projectWith(app.url, click(12_000, 480_000), 0, { samples: 480_000 }, 240);
  // A sound device that runs at half the speed: whoever follows the sound is half as fast.
  await page.addInitScript(() => {
    let first: number | undefined;
    const { getOutputTimestamp } = AudioContext.prototype;
    AudioContext.prototype.getOutputTimestamp = function () {
      const { contextTime = 0, performanceTime = 0 } = getOutputTimestamp.call(this);
      first ??= contextTime;
      const slow = first + (contextTime - first) / 2;
      return { contextTime: slow, performanceTime };
    };
  });
  await openStage(page, app.url, projectId, 'check');
  await page.keyboard.press('Space');
  await expect(page.getByText('late, by the sound')).toBeVisible();
  const frameNow = async () => Number(await page.getByTestId('frame-now').textContent());
  await expect.poll(frameNow).toBeGreaterThan(4);
  const started = { frame: await frameNow(), time: Date.now() };
  await expect.poll(frameNow, { timeout: 20_000 }).toBeGreaterThan(started.frame + 30);
  const framesASecond = ((await frameNow()) - started.frame) / ((Date.now() - started.time) / 1000);
  expect(framesASecond).toBeGreaterThan(8);
  expect(framesASecond).toBeLessThan(16);

  // A machine without sound: the film plays all the same, in time, and says why it is silent.
  await page.addInitScript(() => {
    AudioContext.prototype.resume = () => new Promise<void>(() => undefined);
    Object.defineProperty(AudioContext.prototype, 'state', { get: () => 'suspended' });
  });
  await openStage(page, app.url, projectId, 'check');
  await page.keyboard.press('Space');
  await expect(page.getByText('No sound comes out of this machine: played by the clock of the page.')).toBeVisible();
  await expect.poll(frameNow).toBeGreaterThan(4);
  const again = { frame: await frameNow(), time: Date.now() };
  await expect.poll(frameNow).toBeGreaterThan(again.frame + 24);
  expect(((await frameNow()) - again.frame) / ((Date.now() - again.time) / 1000)).toBeGreaterThan(18);
});

test('a sound that is too short, gone, or beside its accent is found and fixed; the path says so', async ({ page, app }) => {
  const projectId = await projectWith(app.url, click(100, 300), 4, { samples: 300 });
  await openStage(page, app.url, projectId, 'check');
  const findings = page.getByRole('region', { name: 'Findings' });
  const short = findings
    .getByRole('listitem')
    .filter({ hasText: 'Sound Click on frame 5 of 010 lasts 0.006 s (300 samples), less than a frame' });
  await expect(short).toBeVisible();
  await short.getByRole('button', { name: 'Remove Click from shot 010' }).click();
  await expect(short).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(short).toBeVisible();

  // An accent of its name stands two frames on: the sound is late no longer once it is moved there.
  await untilKept(page);
  const shotId = (await projectOnServer(app.url, projectId)).shots[0]?.id ?? '';
  await sendSteps(app.url, projectId, [{ type: 'setNotes', shotId, notes: [{ frame: 6, kind: 'accent', words: 'click' }] }]);
  await page.reload();
  const beside = findings.getByRole('listitem').filter({ hasText: 'its sound starts on frame 5: 2 frames early' });
  await beside.getByRole('button', { name: 'Start the sound on frame 7' }).click();
  await expect(beside).toHaveCount(0);
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).shots[0]?.sounds[0]?.startFrame).toBe(6);

  // The store loses the recording, then has something else under its name.
  await page.route('**/api/originals/*', (route) =>
    route.fulfill({ status: 404, headers: OWN, json: { error: 'There is no such file here.' } }),
  );
  await page.reload();
  // Recordings are listened to once a page is calm: on a slow machine that takes a while.
  await expect(findings.getByText('The recording of Click, click.wav, is not in the store')).toBeVisible({ timeout: 45_000 });
  await expect(page.getByRole('button', { name: 'Check to Assemble: counts disagree. Show why' })).toBeVisible();
  await page.unroute('**/api/originals/*');
  await page.route('**/api/originals/*', (route) => route.fulfill({ headers: OWN, body: 'not a sound any more' }));
  await page.reload();
  const broken = findings.getByRole('listitem').filter({ hasText: 'The recording of Click, click.wav, can’t be read any more' });
  await expect(broken).toBeVisible();
  await page.keyboard.press('Space');
  await expect.poll(async () => Number(await page.getByTestId('frame-now').textContent())).toBeGreaterThan(3);
  await page.keyboard.press('Space');
  await broken.getByRole('button', { name: 'Remove Click from shot 010' }).click();
  await expect(broken).toHaveCount(0);
});

test('a sound dragged along the reel starts on another frame; without sound the page’s clock counts', async ({ page, app }) => {
  const projectId = await projectWith(app.url, click(100, 8_000), 4, { samples: 8_000 });
  await openStage(page, app.url, projectId, 'assemble');
  const lane = page.getByRole('region', { name: 'Sounds on the reel' });
  const sound = lane.getByRole('button', { name: 'Sound Click of shot 010, frames 5 to 8 of the reel' });
  await expect(sound).toBeVisible();
  const box = await sound.boundingBox();
  if (!box) throw new Error('The sound is not on the reel.');
  await page.mouse.move(box.x + 10, box.y + 20);
  await page.mouse.down();
  // The sound is four frames wide.
  await page.mouse.move(box.x + 10 + (6 * box.width) / 4, box.y + 20, { steps: 5 });
  await expect(page.getByText('Click starts on frame 11 of shot 010, 11 of the reel')).toBeVisible();
  await page.mouse.up();
  await expect(lane.getByRole('button', { name: 'Sound Click of shot 010, frames 11 to 14 of the reel' })).toBeVisible();
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).shots[0]?.sounds[0]?.startFrame).toBe(10);
  await page.keyboard.press('Alt+a');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('late')).toHaveText(/^\d+ of [1-9]\d* late$/);
});
