import { describe, expect, it } from 'vitest';
import { planRateChange } from '@/core/conform/conform';
import type { Project, Shot } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import type { Edit } from '@/core/edit/edit';
import { cutFrames, insertFrames, trimTo } from '@/core/edit/frameEdits';
import { bringSounds, framesLeftOut, moveSound, recordingWords, trimSound } from '@/core/edit/soundEdits';
import { applyStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import { joinWithNext } from '@/core/reel/joinShots';
import { placedItems } from '@/core/reel/reel';
import { duplicateShot } from '@/core/reel/shotEdits';
import { splitShot } from '@/core/reel/splitShot';
import { contextOn, ids, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

const RATE = { num: 24, den: 1 };
const WIND = soundOf('Wind', 0, 24_000);
const PLOP = soundOf('Plop', 8, 5_000);
const SHOT: Shot = { ...shotOf([levelOf('Sock', '1*12 2*12')], 24), sounds: [WIND, PLOP] };
const NEXT: Shot = { ...shotOf([levelOf('Sock', '1*12', { id: 'Sock2' })], 12, '020'), sounds: [soundOf('Hum', 3, 9_000)] };

const written = (sounds: readonly Sound[] | undefined) =>
  (sounds ?? []).map(({ name, startFrame, fromSample, samples }) => `${name} on ${startFrame}, ${fromSample}+${samples}`);
const soundsAfter = (project: Project, edit: Outcome<Edit>) =>
  mustBeDone(applyStep(project, mustBeDone(edit).step)).shots.map((shot) => written(shot.sounds));

describe('bringing recordings in', () => {
  it('names them after their files, each its own name, and says where they are heard', () => {
    const recording = { ...PLOP.recording, fileName: 'big_plop-02.wav' };
    const edit = mustBeDone(bringSounds(contextOn(SHOT), [recording], 11, RATE));
    expect(edit.says).toBe('Big plop 02 is heard on frames 12–14 of shot 010');
    const twice = mustBeDone(bringSounds(contextOn(SHOT), [PLOP.recording, PLOP.recording], 0, RATE));
    expect(twice.says).toBe('2 sounds start on frame 1 of shot 010');
    expect(soundsAfter(projectOf(SHOT), { ok: true, value: twice })[0]?.slice(2)).toEqual(['Plop 2 on 0, 0+5000', 'Plop 3 on 0, 0+5000']);
    expect(bringSounds(contextOn(SHOT), [], 0, RATE).ok).toBe(false);
  });

  it('tells what was counted', () => expect(recordingWords(PLOP.recording)).toBe('5,000 samples at 48,000 a second, 1 channel: 0.104 s'));
});

describe('moving and trimming', () => {
  it('moves whole, and only within the shot', () => {
    const edit = mustBeDone(moveSound(contextOn(SHOT), PLOP, 11, RATE));
    expect(edit.says).toBe('Plop 3 frames later: frames 12–14');
    expect(soundsAfter(projectOf(SHOT), { ok: true, value: edit })[0]?.[1]).toBe('Plop on 11, 0+5000');
    for (const frame of [-1, 24]) expect(moveSound(contextOn(SHOT), PLOP, frame, RATE).ok).toBe(false);
  });

  it.each<[string, number, number, string]>([
    ['a frame at its beginning, heard where it was', 1, 0, 'Plop on 9, 2000+3000'],
    ['a frame at its end', 0, 1, 'Plop on 8, 0+3000'],
    ['nothing', 0, 0, 'Plop on 8, 0+5000'],
  ])('leaves out %s', (_words, start, end, expected) => {
    expect(soundsAfter(projectOf(SHOT), trimSound(contextOn(SHOT), PLOP, start, end, RATE))[0]?.[1]).toBe(expected);
  });

  it('refuses to leave out all of it, or less than nothing', () => {
    for (const [start, end] of [
      [3, 0],
      [1, 2],
      [-1, 0],
    ] as const)
      expect(trimSound(contextOn(SHOT), PLOP, start, end, RATE).ok).toBe(false);
  });

  it('puts back what was left out, unless it would start before the shot', () => {
    const trimmed: Sound = { ...PLOP, startFrame: 9, fromSample: 2_000, samples: 3_000 };
    expect(framesLeftOut(trimmed, RATE)).toEqual({ startFrames: 1, endFrames: 0 });
    const shot = { ...SHOT, sounds: [trimmed] };
    expect(soundsAfter(projectOf(shot), trimSound(contextOn(shot), trimmed, 0, 0, RATE))[0]).toEqual(['Plop on 8, 0+5000']);
    const first = { ...trimmed, startFrame: 0 };
    expect(trimSound(contextOn({ ...SHOT, sounds: [first] }), first, 0, 0, RATE)).toMatchObject({ ok: false });
  });
});

describe('what happens to sounds when frames do', () => {
  const project = projectOf(SHOT, NEXT);
  const context = contextOn(SHOT);

  it.each<[string, () => Outcome<Edit>, readonly (readonly string[])[]]>([
    [
      'frames inserted before one move it, and not one that has begun',
      () => insertFrames(context, 'shot', 4, 3, 'hold', true),
      [['Wind on 0, 0+24000', 'Plop on 11, 0+5000'], ['Hum on 3, 0+9000']],
    ],
    [
      'frames inserted on a level alone move none',
      () => insertFrames(context, ['Sock'], 4, 3, 'hold', true),
      [['Wind on 0, 0+24000', 'Plop on 8, 0+5000'], ['Hum on 3, 0+9000']],
    ],
    [
      'frames cut before one move it up',
      () => cutFrames(context, 'shot', 2, 4, true),
      [['Wind on 0, 0+24000', 'Plop on 5, 0+5000'], ['Hum on 3, 0+9000']],
    ],
    [
      'the frame it starts on is cut: it starts where the cut is',
      () => cutFrames(context, 'shot', 6, 10, true),
      [['Wind on 0, 0+24000', 'Plop on 6, 0+5000'], ['Hum on 3, 0+9000']],
    ],
    [
      'trimmed to a range, what is heard stays beside its frames',
      () => trimTo(context, RATE, 9, 20, true),
      [['Wind on 0, 18000+6000', 'Plop on 0, 2000+3000'], ['Hum on 3, 0+9000']],
    ],
    [
      'a shot split: each half has what starts in it',
      () => splitShot(project, SHOT, 5, ids()),
      [['Wind on 0, 0+24000'], ['Plop on 3, 0+5000'], ['Hum on 3, 0+9000']],
    ],
    ['two shots joined', () => joinWithNext(project, SHOT, ids()), [['Wind on 0, 0+24000', 'Plop on 8, 0+5000', 'Hum on 27, 0+9000']]],
    [
      'a shot once more',
      () => duplicateShot(project, NEXT, ids()),
      [['Wind on 0, 0+24000', 'Plop on 8, 0+5000'], ['Hum on 3, 0+9000'], ['Hum on 3, 0+9000']],
    ],
    [
      'another rate: they start when they started',
      () =>
        planRateChange(project, placedItems(project), {
          scope: { kind: 'project', to: { num: 12, den: 1 } },
          way: 'keepTime',
          vanishing: 'keep',
        }).edit,
      [['Wind on 0, 0+24000', 'Plop on 4, 0+5000'], ['Hum on 2, 0+9000']],
    ],
    [
      'read at another rate: they keep their frames',
      () =>
        planRateChange(project, placedItems(project), {
          scope: { kind: 'project', to: { num: 12, den: 1 } },
          way: 'readAs',
          vanishing: 'keep',
        }).edit,
      [['Wind on 0, 0+24000', 'Plop on 8, 0+5000'], ['Hum on 3, 0+9000']],
    ],
  ])('%s', (_words, edit, expected) => expect(soundsAfter(project, edit())).toEqual(expected));

  it('trimming away all of one says so', () => {
    const edit = mustBeDone(trimTo(context, RATE, 14, 20, true));
    expect(edit.says).toContain('2 sounds with nothing left go');
    expect(soundsAfter(project, { ok: true, value: edit })[0]).toEqual([]);
  });
});
