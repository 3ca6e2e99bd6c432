import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { judge } from '../src/core/count/verdict';
import { sampleOfFrame } from '../src/core/document/sound';
import { mustBeDone } from '../src/core/outcome';
import { startFilmOptions } from '../src/core/output/film';
import { type RenderPlan, renderPlanOf } from '../src/core/render/renderPlan';
import type { HandoverEnd } from '../src/workers/protocol';
import { SAMPLE_RATE } from './clicks';
import { expect, openStage, test } from './fixtures';
import { OWN_HEADERS, ownWorker } from './ownWorker';
import { makeProject, projectOnServer } from './projects';

/*
 * A good film, made by the program and written anew by ffmpeg with a mistake in it, is told by its receipt: which mistake, and
 * on which frames. A film that was only written anew agrees.
 */

const FRAMES = 48;
const RATE = { num: 24, den: 1 };
const FILM = { title: 'Damaged', rate: RATE, size: { width: 128, height: 72 }, frames: FRAMES };

/** The frames of the good film, each shown where the list says; −1 leaves one out. */
const shuffled = (change: (frame: number) => number): string =>
  `shuffleframes=${Array.from({ length: FRAMES }, (_, frame) => change(frame))
    .join('|')
    .replaceAll('|', ' ')}`;

type Damage = {
  readonly what: string;
  readonly picture?: string;
  readonly sound?: string;
  /** More for the writer. */
  readonly output?: readonly string[];
  readonly says: readonly RegExp[];
};

/** Frames are held two at a time: from 1, drawing k stands on frames 2k − 1 and 2k. */
const DAMAGES: readonly Damage[] = [
  { what: 'nothing', says: [] },
  {
    what: 'a frame dropped',
    picture: `${shuffled((frame) => (frame === 20 ? -1 : frame))},setpts=N/24/TB`,
    // What follows comes one frame early: each first frame of a hold shows what its second did.
    says: [/1 frame asked for is not in the file\./, /Wrong picture on frames? 22/],
  },
  {
    what: 'a frame doubled',
    picture: shuffled((frame) => (frame === 20 ? 19 : frame)),
    says: [/is repeated, with no hold on the sheet, on frame 21\./],
  },
  {
    what: 'two drawings swapped',
    picture: shuffled((frame) => (frame === 10 ? 30 : frame === 30 ? 10 : frame)),
    says: [/Wrong picture on frames 11, 31\./],
  },
  {
    what: 'everything a frame late',
    picture: shuffled((frame) => Math.max(0, frame - 1)),
    says: [/is repeated, with no hold on the sheet, on frames 3, 5, 7/],
  },
  {
    what: '24 read as 25',
    picture: 'setpts=N/25/TB',
    output: ['-r', '25'],
    says: [/Asked for 24\/1 frames a second, the file says 25\/1/],
  },
  {
    what: 'one frame not on time',
    picture: "settb=1/48000,setpts='(N+if(eq(N,30),0.4,0))*2000'",
    output: ['-fps_mode', 'passthrough', '-enc_time_base', '1/48000'],
    says: [/Not on time: frame 31\.|fit no rate/],
  },
  {
    what: 'another picture on one frame',
    picture: "drawbox=x=20:y=10:w=90:h=50:color=black:t=fill:enable='eq(n,12)'",
    says: [/Wrong picture on frame 13\./],
  },
  { what: 'another size', picture: 'scale=64:36', says: [] },
  { what: 'a frame too many', picture: 'tpad=stop=1:stop_mode=clone', says: [/The file holds 1 frame too many\./] },
  { what: 'the end cut off', picture: 'trim=end_frame=40', says: [/8 frames asked for are not in the file\./] },
  { what: 'sound cut off', sound: 'atrim=end_sample=48000', says: [/Another sound than was mixed is heard on frames/] },
  { what: 'sound late', sound: 'adelay=125|125,atrim=end_sample=96000', says: [/Another sound than was mixed is heard on frames/] },
  {
    what: 'silence in the middle',
    sound: "volume=0:enable='between(t,1,1.2)'",
    says: [/Another sound than was mixed is heard on frames 25/],
  },
  { what: 'no sound', sound: 'none', says: [] },
];

const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 1 << 26 });

/** The film as it was, written anew with a damage. */
function write(folder: string, good: string, { picture, sound, output = [] }: Damage): string {
  const file = path.join(folder, 'damaged.mp4');
  const heard = sound === 'none' ? [] : ['-i', path.join(folder, 'sound.wav')];
  ffmpeg(
    ...['-i', good, ...heard, '-map', '0:v', ...(heard.length > 0 ? ['-map', '1:a'] : [])],
    ...['-vf', `${picture ?? 'null'},format=yuv420p`, ...(heard.length > 0 ? ['-af', sound ?? 'anull'] : [])],
    ...['-c:v', 'libx264', '-crf', '8', '-video_track_timescale', '48000', '-c:a', 'flac', '-strict', '-2', ...output, file],
  );
  return file;
}

test('a film damaged in any of fourteen ways is told by its receipt, and one that is not agrees', async ({ page, app }) => {
  test.setTimeout(180_000);
  const projectId = await makeProject(app.url, FILM, { drawings: 24, hold: 2 });
  const project = await projectOnServer(app.url, projectId);
  const plan: RenderPlan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: FRAMES - 1, withBackground: true }));
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-damaged-'));
  // A tone that swells and falls, so that no stretch is as loud as its neighbours.
  const tone = '0.5*sin(2*PI*440*t)*(0.5+0.5*sin(2*PI*1.3*t))';
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc='${tone}|${tone}':s=${SAMPLE_RATE}:d=2`, path.join(folder, 'sound.wav'));
  const meantSound = ffmpeg('-i', path.join(folder, 'sound.wav'), '-af', 'pan=mono|c0=c0', '-f', 'f32le', '-');
  let film = Buffer.alloc(0);
  const run = await ownWorker<HandoverEnd>(page, 'e2e/damaged/worker.ts');
  await page.route('**/meant-sound', (route) => route.fulfill({ body: meantSound, headers: OWN_HEADERS }));
  await page.route('**/damaged-film', (route) => route.fulfill({ body: film, headers: OWN_HEADERS }));
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'MKV', exact: true }).click();
  await page.getByLabel('Quality').selectOption('finest');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: `Hand over ${FRAMES} frames` }).click();
  const good = path.join(folder, 'good.mkv');
  await (await download).saveAs(good);

  const options = startFilmOptions('mp4');
  const order = {
    plan,
    formatId: 'damaged',
    baseName: 'damaged',
    ground: 'paper',
    owner: 'test',
    decodeWhileWriting: false,
    jobId: 'job',
    wasBegun: false,
    options,
    names: [],
    lists: [],
  };
  const request = {
    ...{ frames: FRAMES, rate: RATE, ...FILM.size, firstNumber: 1 },
    sound: { codec: 'flac', sampleRate: SAMPLE_RATE, channels: 2, samples: sampleOfFrame(FRAMES, RATE, SAMPLE_RATE) },
    loop: null,
  };
  for (const damage of DAMAGES) {
    film = await readFile(write(folder, good, damage));
    const end = await run(order);
    if (end.kind !== 'written') throw new Error(`${damage.what}: ${JSON.stringify(end)}`);
    const verdict = judge(request, end.result.count);
    const said = verdict.sentences.join('\n');
    expect(verdict.agrees, `${damage.what}: ${said}`).toBe(damage.what === 'nothing');
    for (const words of damage.says) expect(said, damage.what).toMatch(words);
  }
  await rm(folder, { recursive: true });
});
