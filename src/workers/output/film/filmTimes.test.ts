import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { BlobSource, Input, MATROSKA, MP4, QTFF, WEBM } from 'mediabunny';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rateOfTimes } from '@/core/count/fileTimes';
import { editListOf, readFilmTimes } from '@/workers/output/film/filmTimes';

/*
 * Films made by a program that knows nothing of ours (ffmpeg), read by ours, and counted once more by ffprobe.
 */
const run = promisify(execFile);
let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lime-tick-films-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const path = (name: string) => join(folder, name);
const ffmpeg = (...args: string[]) => run('ffmpeg', ['-v', 'error', '-y', ...args]);
const source = (rate: string, frames: number) => ['-f', 'lavfi', '-i', `testsrc2=size=64x48:rate=${rate}`, '-frames:v', String(frames)];
const X264 = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p'];

async function told(name: string) {
  const file = new Blob([await readFile(path(name))]);
  const isMp4 = name.endsWith('.mp4');
  const input = new Input({ source: new BlobSource(file), formats: [MP4, QTFF, WEBM, MATROSKA] });
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('It holds no film.');
  const times = await readFilmTimes(track, isMp4 ? await editListOf(file) : null, isMp4);
  return { times, ...rateOfTimes(times) };
}

/** How many frames a player decodes and shows, as ffmpeg has it. */
async function shownByFfmpeg(name: string): Promise<number> {
  const { stdout } = await run('ffprobe', [
    '-v',
    'error',
    '-count_frames',
    '-select_streams',
    'v:0',
    '-show_entries',
    'stream=nb_read_frames',
    '-of',
    'csv=p=0',
    path(name),
  ]);
  return Number.parseInt(stdout, 10);
}

/** SHA-256 of each packet, in the order they are shown, as ffprobe has it. */
async function packetsByFfprobe(name: string): Promise<readonly string[]> {
  const told = ['-show_packets', '-show_data_hash', 'sha256', '-show_entries', 'packet=pts,data_hash', '-of', 'csv=p=0'];
  const { stdout } = await run('ffprobe', ['-v', 'error', '-select_streams', 'v:0', ...told, path(name)]);
  const packets = stdout
    .trim()
    .split('\n')
    .map((line) => line.split(/,SHA256:/));
  return packets.toSorted(([a], [b]) => Number(a) - Number(b)).map(([, digest]) => digest as string);
}

describe('films made elsewhere', () => {
  it.each([
    ['24', '24', { num: 24, den: 1 }],
    ['23976', '24000/1001', { num: 24000, den: 1001 }],
    ['25', '25', { num: 25, den: 1 }],
    ['5994', '60000/1001', { num: 60000, den: 1001 }],
  ])('20 frames at %s are told by MP4 and by WebM, which states a frame’s length', async (name, rate, meant) => {
    for (const [file, codec] of [
      [`${name}.mp4`, X264],
      [`${name}.webm`, ['-c:v', 'libvpx-vp9']],
    ] as const) {
      await ffmpeg(...source(rate, 20), ...codec, path(file));
      const film = await told(file);
      expect(film.rates, file).toEqual([meant]);
      expect(film.mistimedFrames, file).toEqual([]);
      expect(film.times.startMicroseconds, file).toHaveLength(20);
      expect(film.times.packetDigests(), file).toEqual(await packetsByFfprobe(file));
    }
  });

  it('20 frames at 24000/1001 in a Matroska that states no length could be 24 as well', async () => {
    await ffmpeg(...source('24000/1001', 20), '-c:v', 'libvpx-vp9', path('a.webm'));
    // The stated length (DefaultDuration, 0x23E383) becomes a void of the same size.
    const bytes = await readFile(path('a.webm'));
    const at = bytes.indexOf(Buffer.from([0x23, 0xe3, 0x83]));
    expect(at).toBeGreaterThan(0);
    const size = 3 + 1 + ((bytes[at + 3] as number) & 0x7f);
    bytes.set([0xec, 0x80 | (size - 2), ...new Array(size - 2).fill(0)], at);
    await writeFile(path('b.webm'), bytes);
    const film = await told('b.webm');
    expect(film.rates).toHaveLength(2);
    expect(film.rates).toEqual(
      expect.arrayContaining([
        { num: 24, den: 1 },
        { num: 24000, den: 1001 },
      ]),
    );
  });

  it('with frames shown before the ones they are made of (B-frames) are read in the order they are shown', async () => {
    await ffmpeg(...source('24', 48), ...X264, '-bf', '3', path('b.mp4'));
    const film = await told('b.mp4');
    expect(film).toMatchObject({ rates: [{ num: 24, den: 1 }], mistimedFrames: [] });
    expect(film.times.startMicroseconds[0]).toBe(0);
    expect(film.times.startMicroseconds).toHaveLength(await shownByFfmpeg('b.mp4'));
  });

  it('with an edit list are counted as a player shows them', async () => {
    await ffmpeg(...source('24', 48), ...X264, '-bf', '2', '-g', '12', path('whole.mp4'));
    // From the middle of a group of pictures, without coding again: an edit list passes over what is only needed to decode.
    await ffmpeg('-ss', '0.25', '-i', path('whole.mp4'), '-c', 'copy', path('cut.mp4'));
    const list = await editListOf(new Blob([await readFile(path('cut.mp4'))]));
    expect(list?.some(({ mediaSeconds }) => (mediaSeconds ?? 0) > 0.2)).toBe(true);
    const film = await told('cut.mp4');
    expect(film.times.startMicroseconds).toHaveLength(await shownByFfmpeg('cut.mp4'));
    expect(film.times.startMicroseconds).toHaveLength(42);
    expect(film).toMatchObject({ rates: [{ num: 24, den: 1 }], mistimedFrames: [] });
  });

  it('of a rate that varies fit none, or name the frames that are off', async () => {
    // Every frame from the 10th on a sixth of a frame later than the one before would have it.
    await ffmpeg(
      ...source('24', 48),
      '-vf',
      "settb=1/24000,setpts='1000*N+170*max(0,N-10)'",
      '-fps_mode',
      'vfr',
      '-enc_time_base',
      '1/24000',
      '-video_track_timescale',
      '24000',
      ...X264,
      path('vfr.mp4'),
    );
    const film = await told('vfr.mp4');
    expect(film.mistimedFrames.length).toBeGreaterThan(30);
    expect(film.rates).toEqual([]);
    await ffmpeg(
      ...source('24', 48),
      '-vf',
      "settb=1/24000,setpts='1000*N+if(eq(N,20),400,0)'",
      '-fps_mode',
      'vfr',
      '-enc_time_base',
      '1/24000',
      '-video_track_timescale',
      '24000',
      ...X264,
      path('one.mp4'),
    );
    expect(await told('one.mp4')).toMatchObject({ rates: [{ num: 24, den: 1 }], mistimedFrames: [20] });
  });
});
