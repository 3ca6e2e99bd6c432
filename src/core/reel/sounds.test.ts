import { describe, expect, it } from 'vitest';
import type { Project, Shot } from '@/core/document/model';
import { type Sound, sampleOfFrame } from '@/core/document/sound';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { mixOf } from '@/core/reel/mix';
import { placeOnReel } from '@/core/reel/placeSound';
import { inLanes, soundsOfReel, soundsOverShot } from '@/core/reel/sounds';
import { levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

const RATE = { num: 24, den: 1 };
const shot = (code: string, frames: number, ...sounds: Sound[]): Shot => ({
  ...shotOf([levelOf(`L${code}`, '1*2')], frames, code),
  sounds,
});
/** Three shots of 10, 20 and 30 frames; wind from the first over the second, a plop in the second, a hum in the third. */
const FILM = projectOf(
  shot('010', 10, soundOf('Wind', 4, 2_000 * 20)),
  shot('020', 20, soundOf('Plop', 8, 5_000)),
  shot('030', 30, soundOf('Hum', 0, 2_000 * 30)),
);

describe('sounds on the reel', () => {
  it('start where their shot starts, and end with the last frame they touch', () => {
    expect(soundsOfReel(FILM).map(({ sound, startFrame, endFrame }) => [sound.name, startFrame, endFrame])).toEqual([
      ['Wind', 4, 24],
      ['Plop', 18, 21],
      ['Hum', 30, 60],
    ]);
  });

  it('move with their shot when one before it gets longer', () => {
    const longer = mustBeDone(applyStep(FILM, { type: 'setShotLength', shotId: 'shot-010', frames: 17 }));
    expect(soundsOfReel(longer).map(({ startFrame }) => startFrame)).toEqual([4, 25, 37]);
  });

  it('are heard over a shot they began before, and not over one they only touch', () => {
    const over = (code: string) =>
      soundsOverShot(FILM, `shot-${code}`).map(({ sound, startFrame, endFrame }) => [sound.name, startFrame, endFrame]);
    expect(over('010')).toEqual([['Wind', 4, 24]]);
    expect(over('020')).toEqual([
      ['Wind', -6, 14],
      ['Plop', 8, 11],
    ]);
    expect(over('030')).toEqual([['Hum', 0, 30]]);
    expect(over('none')).toEqual([]);
  });

  it('lie side by side where they overlap, and one after another where they don’t', () => {
    const { laned, lanes } = inLanes(soundsOfReel(FILM));
    expect(lanes).toBe(2);
    expect(laned.map(({ sound, lane }) => [sound.name, lane])).toEqual([
      ['Wind', 0],
      ['Plop', 1],
      ['Hum', 0],
    ]);
    expect(inLanes([]).lanes).toBe(1);
  });
});

describe('placing a sound on the reel', () => {
  const placed = (project: Project, frame: number) => {
    const [plop] = soundsOfReel(project).filter(({ sound }) => sound.name === 'Plop');
    if (!plop) throw new Error('There is no plop.');
    return placeOnReel(project, plop, frame);
  };

  it('keeps it in its shot, or gives it to the one whose frame it is, undone as it was', () => {
    for (const frame of [10, 29, 3, 45]) {
      const edit = mustBeDone(placed(FILM, frame));
      const moved = mustBeDone(applyStep(FILM, edit.step));
      const there = soundsOfReel(moved).find(({ sound }) => sound.name === 'Plop');
      expect(there?.startFrame).toBe(frame);
      expect(there?.shot?.code).toBe(frame < 10 ? '010' : frame < 30 ? '020' : '030');
      expect(mustBeDone(applyStep(moved, invertStep(FILM, edit.step)))).toEqual(FILM);
    }
    expect(mustBeDone(placed(FILM, 3)).says).toBe('Plop starts on frame 4 of shot 010, 4 of the reel');
  });

  it('refuses frames that are none of the reel’s', () => {
    expect(placed(FILM, -1).ok).toBe(false);
    expect(placed(FILM, 60).ok).toBe(false);
  });
});

describe('what goes into a mix (worked by hand at 24 and 48,000: 2,000 samples a frame)', () => {
  const over = soundsOverShot(FILM, 'shot-020');
  const parts = (fromFrame: number, toFrame: number, sounds: Parameters<typeof mixOf>[0] = over) => {
    const mix = mixOf(sounds, fromFrame, toFrame, RATE, 48_000);
    return [mix.samples, ...mix.parts.map(({ sound, atSample, fromSample, samples }) => [sound.name, atSample, fromSample, samples])];
  };

  it.each([
    ['the whole shot', 0, 19, [40_000, ['Wind', 0, 12_000, 28_000], ['Plop', 16_000, 0, 5_000]]],
    ['a range that begins within both', 9, 9, [2_000, ['Wind', 0, 30_000, 2_000], ['Plop', 0, 2_000, 2_000]]],
    ['the last bit of one', 10, 10, [2_000, ['Wind', 0, 32_000, 2_000], ['Plop', 0, 4_000, 1_000]]],
    ['after all are over', 15, 19, [10_000]],
  ])('%s', (_words, from, to, expected) => expect(parts(from, to)).toEqual(expected));

  it('leaves out what is muted, starts a trimmed one at its first sample, and turns decibels into a factor', () => {
    const trimmed: Sound = { ...soundOf('Plop', 8, 5_000), fromSample: 1_000, samples: 3_000, gainDecibels: -20 };
    expect(parts(8, 8, [{ sound: trimmed, startFrame: 8 }])).toEqual([2_000, ['Plop', 0, 1_000, 2_000]]);
    expect(mixOf([{ sound: trimmed, startFrame: 8 }], 8, 8, RATE, 48_000).parts[0]?.gains.map(({ gain }) => gain)).toEqual([0.1, 0.1]);
    expect(mixOf([{ sound: { ...trimmed, muted: true }, startFrame: 8 }], 8, 8, RATE, 48_000).parts).toEqual([]);
  });

  it('of a recording at another rate takes as many of its own samples as fill the time', () => {
    const old = soundOf('Old', 0, 44_100, 44_100);
    const mix = mixOf([{ sound: old, startFrame: 0 }], 12, 23, RATE, 48_000);
    expect(mix.samples).toBe(24_000);
    expect(mix.parts[0]).toMatchObject({ atSample: 0, fromSample: 22_050, samples: 22_050 });
  });

  it('lays chunk beside chunk without a sample between or twice, whatever the rate', () => {
    const ntsc = { num: 30000, den: 1001 };
    for (const startFrame of [0, -4, -11]) {
      const sound = { sound: soundOf('Long', 0, 600_000), startFrame };
      let next = 0 - sampleOfFrame(startFrame, ntsc, 48_000);
      for (let frame = 0; frame < 250; frame += 7) {
        const mix = mixOf([sound], frame, frame + 6, ntsc, 48_000);
        expect(mix.parts[0]?.fromSample).toBe(next);
        next += mix.samples;
      }
    }
  });
});
