import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, renameSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Against, readAgainst } from '@/command/against';
import { countOne } from '@/command/count';
import { countablesAt } from '@/command/openPath';
import { EXIT } from '@/command/options';
import { type CountLine, countLineSchema } from '@/contracts/count';

/*
 * Files with known faults, all written by ffmpeg, and the sentence each must come to. The plan is four seconds at 24 of a picture
 * that moves on every frame, with a tone that swells; the faults are made by its filters. ffprobe and ffmpeg's framemd5 count beside.
 */

const FRAMES = 96;
let folder = '';
const at = (name: string): string => path.join(folder, name);
const ffmpeg = (...args: readonly string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: folder });

const X264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p'];
/** Frames one after another at a rate, each at its very time. */
const timed = (rate: string, before = '') => {
  const [num, den = '1'] = rate.split('/');
  return ['-vf', `${before}settb=${den}/${num},setpts=N`, '-fps_mode', 'passthrough', '-enc_time_base', `${den}:${num}`];
};
/** Frames taken out or shown again, by a list of the plan's frames (from 0): each is written as a picture once, and listed. */
function film(name: string, order: readonly number[], rate = '24', coding: readonly string[] = X264): void {
  const list = order.map((frame) => `file 'plan/p_${String(frame + 1).padStart(4, '0')}.png'\nduration 1`).join('\n');
  writeFileSync(at('list.txt'), `${list}\n`);
  ffmpeg('-f', 'concat', '-i', 'list.txt', ...timed(rate), ...coding, name);
}

const all = Array.from({ length: FRAMES }, (_, frame) => frame);
const without = (...gone: readonly number[]) => all.filter((frame) => !gone.includes(frame));
const twice = (...again: readonly number[]) => all.flatMap((frame) => (again.includes(frame) ? [frame, frame] : [frame]));
const stepped = (from: number, to: number) =>
  Array.from({ length: Math.floor((FRAMES * to) / from) }, (_, frame) => Math.floor((frame * from) / to));
const swapped = (first: number) => all.map((frame) => (frame === first ? first + 1 : frame === first + 1 ? first : frame));
const moved = (from: number, frames: number, to: number) => {
  const rest = all.filter((frame) => frame < from || frame >= from + frames);
  const place = rest.indexOf(to);
  return [...rest.slice(0, place), ...all.slice(from, from + frames), ...rest.slice(place)];
};

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-faults-'));
  mkdirSync(at('plan'));
  // A disc on its way over a page with a line that turns: no frame is like another.
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=24:d=4', '-start_number', '1', 'plan/p_%04d.png');
  film('picture.mp4', all);
  ffmpeg('-f', 'lavfi', '-i', "aevalsrc='0.5*sin(2*PI*330*t)*abs(sin(2.3*t*t))':s=48000:d=4", '-c:a', 'pcm_s16le', 'tone.wav');
  ffmpeg('-i', 'picture.mp4', '-i', 'tone.wav', '-c:v', 'copy', '-c:a', 'pcm_s16le', 'plan.mov');
  ffmpeg('-f', 'lavfi', '-i', 'color=black:s=320x180:r=24:d=0.125', '-frames:v', '1', 'black.png');
}, 120_000);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** What files are held against is counted once. */
const plans = new Map<string, Promise<Against>>();
function planOf(name: string): Promise<Against> {
  const plan = plans.get(name) ?? readAgainst(at(name), null);
  plans.set(name, plan);
  return plan;
}

async function counted(
  name: string,
  against: string | null = 'picture.mp4',
): Promise<{ readonly status: number; readonly lines: readonly CountLine[] }> {
  const lines: CountLine[] = [];
  const output = {
    print: (line: string) => void lines.push(countLineSchema.parse(JSON.parse(line))),
    complain: (line: string) => void lines.push({ version: 1, kind: 'unreadable', file: name, reason: line }),
  };
  const plan = against === null ? null : await planOf(against);
  let status: number = EXIT.agrees;
  for (const thing of await countablesAt([at(name)], plan?.byDigests))
    status = Math.max(status, await countOne(thing, plan, { against, rate: null, json: true }, output));
  return { status, lines };
}

/** All that is said of the first thing that was counted. */
const said = ([line]: readonly CountLine[]): string =>
  !line
    ? ''
    : line.kind === 'unreadable'
      ? line.reason
      : [line.agreement?.headline ?? '', ...(line.agreement?.sentences ?? []), ...line.sentences].join(' ');

type Fault = readonly [what: string, make: (name: string) => void, name: string, sentence: string, against?: string | null];

const FAULTS: readonly Fault[] = [
  ['nothing', (name) => film(name, all), 'same.mp4', 'Agrees: 96 frames, each there once, each in its place.'],
  [
    'another coding',
    (name) =>
      film(name, all, '24', [
        '-c:v',
        'libvpx-vp9',
        '-pix_fmt',
        'yuv420p',
        '-crf',
        '40',
        '-b:v',
        '0',
        '-deadline',
        'realtime',
        '-cpu-used',
        '8',
      ]),
    'other.webm',
    'Agrees: 96 frames',
  ],
  ['a coarse coding', (name) => film(name, all, '24', [...X264, '-crf', '38']), 'coarse.mp4', 'Agrees: 96 frames'],
  [
    'a dropped frame',
    (name) => film(name, without(39)),
    'drop.mp4',
    'From frame 40 on everything is one frame early: frame 40 is missing.',
  ],
  [
    'three dropped frames',
    (name) => film(name, without(39, 40, 41)),
    'drop3.mp4',
    'From frame 40 on everything is 3 frames early: frames 40–42 are missing.',
  ],
  ['the first frame dropped', (name) => film(name, without(0)), 'first.mp4', 'Everything is one frame early: frame 1 is missing.'],
  [
    'the last frames dropped',
    (name) => film(name, without(93, 94, 95)),
    'last.mp4',
    'The last 3 frames are missing: the file ends with frame 93.',
  ],
  [
    'a doubled frame',
    (name) => film(name, twice(31)),
    'twice.mp4',
    'From frame 33 on everything is one frame late: frame 32 is there twice.',
  ],
  [
    'the last doubled',
    (name) => film(name, twice(95)),
    'lasttwice.mp4',
    'The file goes on for one frame after the plan’s last: frame 96 is there twice.',
  ],
  [
    'one too often',
    (name) => film(name, [...all.slice(0, 50), 49, 49, ...all.slice(50)]),
    'thrice.mp4',
    'From frame 51 on everything is 2 frames late: frame 50 is there 3 times.',
  ],
  [
    'doubled, then dropped',
    (name) =>
      film(
        name,
        twice(31).filter((frame) => frame !== 60),
      ),
    'both.mp4',
    'From frame 33 to 61 everything is one frame late: frame 32 is there twice, frame 61 is missing.',
  ],
  ['two changed places', (name) => film(name, swapped(20)), 'swap.mp4', 'Frames 21 and 22 have changed places.'],
  [
    'a part moved',
    (name) => film(name, moved(20, 4, 50)),
    'moved.mp4',
    'Frames 21–24 stand in another place than planned: before frame 51.',
  ],
  [
    'another picture',
    (name) =>
      film(
        name,
        all.map((frame) => (frame === 44 ? 80 : frame)),
      ),
    'wrong.mp4',
    'Frame 45 shows the picture of frame 81.',
  ],
  ['a black frame', (name) => blackAt(name, 30, 1, true), 'black.mp4', 'Frame 31 is black.'],
  [
    'black frames put in',
    (name) => blackAt(name, 30, 3, false),
    'blackin.mp4',
    'From frame 34 on everything is 3 frames late: 3 black frames stand before frame 31.',
  ],
  ['a leader', (name) => blackAt(name, 0, 3, false), 'leader.mp4', 'Everything is 3 frames late: 3 black frames stand before frame 1.'],
  [
    '24 stepped to 25',
    (name) => film(name, stepped(24, 25), '25'),
    'to25.mp4',
    'One frame in 25 repeats the one before (4 in all): 24 stepped evenly to 25.',
  ],
  [
    '24 stepped to 30',
    (name) => film(name, stepped(24, 30), '30'),
    'to30.mp4',
    'One frame in 5 repeats the one before (24 in all): 24 stepped evenly to 30.',
  ],
  ['24 stepped to 60 (2:3)', (name) => film(name, stepped(24, 60), '60'), 'to60.mp4', 'held for 2 and 3 frames in turn (2:3)', null],
  ['24 stepped to 48', (name) => film(name, stepped(24, 48), '48'), 'to48.mp4', 'Every frame of the plan is there 2 times.'],
  ['24 stepped to 12', (name) => film(name, stepped(24, 12), '12'), 'to12.mp4', 'Only one frame of the plan in 2 is there.'],
  [
    'one in five left out',
    (name) =>
      film(
        name,
        all.filter((frame) => frame % 5 !== 4),
      ),
    'fifth.mp4',
    'One frame of the plan in 5 is missing',
  ],
  ['24 read as 30', (name) => film(name, all, '30'), 'as30.mp4', '24 a second read as 30: 4.000 s become 3.200 s.'],
  ['24 read as 25', (name) => film(name, all, '25'), 'as25.mp4', '24 a second read as 25: 4.000 s become 3.840 s.'],
  ['24 read as 23.976', (name) => film(name, all, '24000/1001'), 'as23976.mp4', '24 a second read as 23.976: 4.000 s become 4.004 s.'],
  [
    'half the size',
    (name) => ffmpeg('-i', 'picture.mp4', '-vf', 'scale=160:90', ...X264, name),
    'half.mp4',
    'The file’s pictures are 160 × 90, the plan’s 320 × 180.',
  ],
  [
    'another shape',
    (name) => ffmpeg('-i', 'picture.mp4', '-vf', 'scale=240:180', ...X264, name),
    'shape.mp4',
    '240 × 180, the plan’s 320 × 180: another shape.',
  ],
  [
    'odd sides',
    (name) => ffmpeg('-i', 'picture.mp4', '-vf', 'scale=319:179', '-c:v', 'ffv1', '-pix_fmt', 'yuv444p', name),
    'odd.mkv',
    'The file’s pictures are 319 × 179',
  ],
  [
    'another film',
    (name) => ffmpeg('-f', 'lavfi', '-i', 'mandelbrot=s=320x180:r=24', '-frames:v', '96', ...X264, name),
    'another.mp4',
    'The pictures have little to do with the plan’s',
  ],
  [
    'sound late',
    (name) => ffmpeg('-i', 'picture.mp4', '-i', 'tone.wav', '-af', 'adelay=250', '-c:v', 'copy', '-c:a', 'pcm_s16le', '-t', '4', name),
    'late.mov',
    'The sound is 250 ms late (to 10 ms).',
    'plan.mov',
  ],
  [
    'sound early',
    (name) => ffmpeg('-i', 'picture.mp4', '-ss', '0.12', '-i', 'tone.wav', '-c:v', 'copy', '-c:a', 'pcm_s16le', name),
    'early.mov',
    'The sound is 120 ms early (to 10 ms).',
    'plan.mov',
  ],
  ['sound gone', (name) => ffmpeg('-i', 'picture.mp4', '-c:v', 'copy', name), 'silent.mov', 'The sound is missing.', 'plan.mov'],
  [
    'sound cut short',
    (name) => ffmpeg('-i', 'picture.mp4', '-t', '3', '-i', 'tone.wav', '-c:v', 'copy', '-c:a', 'pcm_s16le', name),
    'short.mov',
    's before the picture.',
    'plan.mov',
  ],
  ['sound coded', (name) => ffmpeg('-i', 'plan.mov', '-c:v', 'copy', '-c:a', 'aac', name), 'coded.mp4', 'Agrees: 96 frames', 'plan.mov'],
  [
    'B-frames',
    (name) => ffmpeg('-i', 'picture.mp4', '-c:v', 'libx264', '-bf', '3', '-pix_fmt', 'yuv420p', name),
    'b.mp4',
    'Agrees: 96 frames',
  ],
  [
    'an edit list that skips the beginning',
    (name) => {
      ffmpeg('-i', 'picture.mp4', '-c:v', 'libx264', '-g', '48', '-bf', '0', '-pix_fmt', 'yuv420p', 'gop.mp4');
      ffmpeg('-ss', '0.5', '-i', 'gop.mp4', '-c', 'copy', name);
    },
    'edit.mp4',
    'Its edit list skips 12 of 96 frames that are stored.',
  ],
  [
    'times of its own (VFR)',
    (name) =>
      ffmpeg(
        '-i',
        'picture.mp4',
        '-vf',
        "setpts='N/24/TB+if(gt(mod(N,7),4),0.02/TB,0)'",
        '-fps_mode',
        'passthrough',
        '-enc_time_base',
        '1:90000',
        '-video_track_timescale',
        '90000',
        ...X264,
        name,
      ),
    'vfr.mp4',
    'Not of one rate: 26 of 96 frames are off their time by 24/1',
  ],
  ['a single frame', (name) => film(name, [0]), 'one.mp4', 'The last 95 frames are missing: the file ends with frame 1.'],
  [
    'held for two seconds',
    (name) => film(name, [...all.slice(0, 40), ...Array.from({ length: 47 }, () => 39), ...all.slice(40)]),
    'frozen.mp4',
    'Stands still on frames 40–87 (2.0 s).',
    null,
  ],
  [
    'cut short',
    (name) => {
      film('whole.mp4', all);
      copyFileSync(at('whole.mp4'), at(name));
      truncateSync(at(name), Math.floor(statSync(at(name)).size / 2));
    },
    'cut.mp4',
    'The film has no index (its “moov” box): it was cut short',
  ],
  [
    'cut short behind its index',
    (name) => {
      ffmpeg('-i', 'picture.mp4', '-c', 'copy', '-movflags', 'faststart', name);
      truncateSync(at(name), Math.floor(statSync(at(name)).size * 0.7));
    },
    'cutfast.mp4',
    'it holds 69 of the 96 frames its index lists',
  ],
  [
    'a wrong name',
    (name) => {
      film('right.mp4', all);
      renameSync(at('right.mp4'), at(name));
    },
    'wrong.png',
    'Its name says otherwise',
    null,
  ],
  ['no film', (name) => writeFileSync(at(name), 'Washday'), 'text.mp4', 'It could not be read as a film'],
  ['nothing in it', (name) => writeFileSync(at(name), ''), 'empty.mov', 'The file is empty.'],
  ['a hole in the numbers', (name) => sequence(name, without(39)), 'hole', 'Number 40 is missing.'],
  [
    'a sequence with two numbers in the wrong places',
    (name) => sequence(name, swapped(9)),
    'misnamed',
    'Frames 10 and 11 have changed places.',
  ],
  [
    'a broken picture among good ones',
    (name) => {
      sequence(name, all);
      writeFileSync(at(`${name}/p_0050.png`), 'broken');
    },
    'broken',
    '1 file could not be read: p_0050.png',
  ],
  [
    'a loop',
    (name) => ffmpeg('-i', 'plan/p_%04d.png', '-vf', 'fps=25,split[a][b];[a]palettegen[p];[b][p]paletteuse', name),
    'loop.gif',
    '',
    null,
  ],
  [
    'fields on fields (a repeat every fifth, 30 to 24 back)',
    (name) => film(name, twice(3, 8, 13, 18, 23, 28, 33, 38, 43, 48, 53, 58, 63, 68, 73, 78, 83, 88, 93)),
    'sixth.mp4',
    'One frame in 6 repeats the one before',
  ],
];

function sequence(name: string, order: readonly number[]): void {
  mkdirSync(at(name));
  order.forEach((frame, place) => {
    // A hole keeps the numbers of what is there; anything else is numbered through.
    const number = order.length < FRAMES ? frame + 1 : place + 1;
    copyFileSync(at(`plan/p_${String(frame + 1).padStart(4, '0')}.png`), at(`${name}/p_${String(number).padStart(4, '0')}.png`));
  });
}

function blackAt(name: string, frame: number, frames: number, isInstead: boolean): void {
  const black = Array.from({ length: frames }, () => "file 'black.png'\nduration 1");
  const others = all.map((each) => `file 'plan/p_${String(each + 1).padStart(4, '0')}.png'\nduration 1`);
  others.splice(frame, isInstead ? frames : 0, ...black);
  writeFileSync(at('list.txt'), `${others.join('\n')}\n`);
  ffmpeg('-f', 'concat', '-i', 'list.txt', ...timed('24', 'scale=320:180,format=rgb24,'), ...X264, name);
}

const CASES = FAULTS.map(([what, make, name, sentence, against]) => ({
  what,
  make,
  name,
  sentence,
  against: against === undefined ? 'picture.mp4' : against,
}));

/** How many packets and frames ffprobe counts in a film. */
function countedByFfprobe(name: string): { readonly packets: number; readonly frames: number } {
  const wanted = ['-count_packets', '-count_frames', '-show_entries', 'stream=nb_read_packets,nb_read_frames', '-of', 'json'];
  const said = execFileSync('ffprobe', ['-v', 'error', '-select_streams', 'v:0', ...wanted, at(name)], { encoding: 'utf8' });
  const [stream] = (JSON.parse(said) as { streams: { nb_read_packets: string; nb_read_frames: string }[] }).streams;
  return { packets: Number(stream?.nb_read_packets), frames: Number(stream?.nb_read_frames) };
}

/** How many frames ffmpeg gives a digest of. */
function countedByFramemd5(name: string): number {
  const args = ['-v', 'error', '-i', at(name), '-map', '0:v:0', '-fps_mode', 'passthrough', '-f', 'framemd5', '-'];
  const digests = execFileSync('ffmpeg', args, { encoding: 'utf8' });
  return digests.split('\n').filter((line) => line !== '' && !line.startsWith('#')).length;
}

describe('a file with a fault', () => {
  it('has as many frames as framemd5 has digests of', async () => {
    const [line] = (await counted('picture.mp4', null)).lines;
    expect(line?.kind === 'counted' && line.count.frames).toBe(countedByFramemd5('picture.mp4'));
  });

  it('there are fifty of', () => expect(FAULTS).toHaveLength(50));

  it.each(CASES)(
    '$what is told',
    async ({ make, name, sentence, against }) => {
      make(name);
      const { lines, status } = await counted(name, against);
      expect(said(lines)).toContain(sentence);
      if (sentence.startsWith('Agrees')) expect(status).toBe(EXIT.agrees);
      else if (against !== null) expect(status).toBeGreaterThan(EXIT.agrees);
      const [line] = lines;
      // Of the frame that a file is cut off in ffmpeg makes a picture all the same.
      if (line?.kind !== 'counted' || line.count.kind !== 'film' || sentence.includes('its index lists')) return;
      // ffprobe counts what is stored, an edit list or not; ffmpeg what is shown.
      const { packets, frames } = countedByFfprobe(name);
      if (sentence.includes('edit list')) expect(line.count.frames).toBe(countedByFramemd5(name));
      else expect([line.count.frames, packets]).toEqual([frames, frames]);
    },
    60_000,
  );
});
