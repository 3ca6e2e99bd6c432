import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OutsideOrder, OutsideRun } from '@/core/output/outsideFilm';
import { record } from '@/core/testing/record';
import { encoderArguments, pictureList, pictureName } from '@/server/encoder/encoderCall';

/*
 * The very call that films are written by, made of pictures of one grey each, and read again by ffmpeg: the grey of every frame
 * says which picture it is.
 */

const PICTURES = 6;
const greyOf = (picture: number): number => 20 + picture * 35;
let folder = '';

beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-call-'));
  for (let picture = 0; picture < PICTURES; picture++) {
    const grey = greyOf(picture);
    const page = sharp({ create: { width: 16, height: 16, channels: 3, background: { r: grey, g: grey, b: grey } } });
    writeFileSync(path.join(folder, pictureName(picture)), await page.png().toBuffer());
  }
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const order = (part: Partial<OutsideOrder>): OutsideOrder => ({
  container: 'mov',
  codec: 'ffv1',
  depth: 8,
  quality: 'fine',
  transparency: false,
  width: 16,
  height: 16,
  rate: { num: 24, den: 1 },
  frames: 1,
  sound: null,
  title: '',
  language: 'und',
  timecode: '',
  ...part,
});

/** Runs a program in the folder. Throws with its words when it fails. */
function run(program: string, args: readonly string[]): Buffer {
  const { status, stdout, stderr } = spawnSync(program, args, { cwd: folder, maxBuffer: 1 << 26 });
  if (status !== 0) throw new Error(`${program}: ${String(stderr)}`);
  return stdout;
}

/** The picture on every frame of a film that is written of some runs. */
function picturesIn(film: OutsideOrder, runs: readonly OutsideRun[]): readonly number[] {
  writeFileSync(path.join(folder, 'list.txt'), pictureList(runs, film.rate));
  run('ffmpeg', encoderArguments(film, 'list.txt', 'sound.f32', 'film.mov'));
  const raw = run('ffmpeg', ['-v', 'error', '-i', 'film.mov', '-f', 'rawvideo', '-pix_fmt', 'gray', '-vf', 'scale=1:1', 'pipe:1']);
  return [...raw].map((grey) => Math.round((grey - 20) / 35));
}

const RATES = [
  { num: 12, den: 1 },
  { num: 24000, den: 1001 },
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30000, den: 1001 },
  { num: 60000, den: 1001 },
  { num: 120, den: 1 },
];

describe('the call of the outside encoder', () => {
  it('lays every picture on exactly the frames it is held on, at any rate', () => {
    const anyRuns = fc.array(record({ picture: fc.nat(PICTURES - 1), frames: fc.integer({ min: 1, max: 40 }) }), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(fc.constantFrom(...RATES), anyRuns, (rate, runs) => {
        const frames = runs.reduce((sum, each) => sum + each.frames, 0);
        const meant = runs.flatMap(({ picture, frames: held }) => Array.from({ length: held }, () => picture));
        expect(picturesIn(order({ rate, frames }), runs)).toEqual(meant);
      }),
      { numRuns: 25 },
    );
  });

  it('says where each frame of a long film starts to the nearest microsecond', () => {
    // 129,600 frames, 90 minutes, on twos: the list's lengths add up to the film's, whatever was rounded on the way.
    const runs = Array.from({ length: 64_800 }, (_, index) => ({ picture: index % PICTURES, frames: 2 }));
    const lengths = [...pictureList(runs, { num: 24000, den: 1001 }).matchAll(/duration (\d+)us/g)].map(([, length]) => Number(length));
    expect(lengths.reduce((sum, length) => sum + length, 0)).toBe(Math.round((129_600 * 1001 * 1_000_000) / 24_000));
  });

  it.each([
    ['ffv1', 8, false, 'bgr0'],
    ['ffv1', 8, true, 'bgra'],
    ['ffv1', 10, false, 'gbrp10le'],
    ['ffv1', 10, true, 'gbrap10le'],
    ['png', 8, true, 'rgba'],
    ['prores', 10, false, 'yuv422p10le'],
    ['prores', 10, true, 'yuva444p12le'],
  ] as const)('writes %s of %i bits, transparency %s, as %s', (codec, depth, transparency, pixels) => {
    picturesIn(order({ codec, depth, transparency, frames: 3 }), [{ picture: 2, frames: 3 }]);
    const said = run('ffprobe', ['-v', 'error', '-show_entries', 'stream=pix_fmt,color_space', '-of', 'json', 'film.mov']);
    const [stream] = (JSON.parse(String(said)) as { streams: { pix_fmt: string; color_space?: string }[] }).streams;
    expect(stream?.pix_fmt).toBe(pixels);
    if (codec === 'prores') expect(stream?.color_space).toBe('bt709');
  });
});
