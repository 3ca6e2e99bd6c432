import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Sound, sampleOfFrame } from '@/core/document/sound';
import { MIX_RATE, mixOf } from '@/core/reel/mix';
import { soundsOfReel } from '@/core/reel/sounds';
import { record } from '@/core/testing/record';
import { levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

const RATE = { num: 24, den: 1 };

describe('how many samples frames have: round half up of frames · den · 48,000 / num (worked by hand)', () => {
  it.each([
    [264, 24, 1, 528_000],
    [997, 24000, 1001, 1_995_994],
    [601, 60000, 1001, 481_281],
    [1, 30000, 1001, 1602],
  ])('%i at %i/%i are %i', (frames, num, den, samples) => {
    expect(mixOf([], 0, frames - 1, { num, den }, MIX_RATE).samples).toBe(samples);
  });
  it('frames 0 to 4 at 30000/1001 start on 0, 1602, 3203, 4805, 6406 and end on 8008', () => {
    const rate = { num: 30000, den: 1001 };
    expect([0, 1, 2, 3, 4, 5].map((frame) => sampleOfFrame(frame, rate, MIX_RATE))).toEqual([0, 1602, 3203, 4805, 6406, 8008]);
  });
});

describe('a click planted in a sound', () => {
  /** The sample of the mix on which sample `click` of a recording at 48,000 is heard; null when it isn't. */
  const heardAt = (sounds: Parameters<typeof mixOf>[0], name: string, click: number, frames: number): number | null => {
    for (const part of mixOf(sounds, 0, frames - 1, RATE, MIX_RATE).parts) {
      const within = click - part.fromSample;
      if (part.sound.name === name && within >= 0 && within < part.samples) return part.atSample + within;
    }
    return null;
  };
  const project = projectOf(shotOf([levelOf('A', '1*72')], 72), {
    ...shotOf([levelOf('B', '1*96')], 96, '020'),
    sounds: [soundOf('Plop', 35, 5_000), soundOf('Step', 3, 40_000)],
  });
  const film = {
    ...project,
    reel: {
      items: [
        { id: 'a', kind: 'shot' as const, finished: true, shotId: 'shot-010', trim: null },
        { id: 'b', kind: 'shot' as const, finished: true, shotId: 'shot-020', trim: { fromFrame: 8, frames: 80 } },
      ],
      sounds: [soundOf('Hum', 10, 50_000)],
    },
  };
  const sounds = soundsOfReel(film);
  it.each([
    // Shot 020's frame 35 is the reel's 72 + 35 − 8 = 99, sample 198,000.
    ['Plop', 0, 198_000],
    ['Plop', 1234, 199_234],
    // Five frames, 10,000 samples, of its head are cut: the 10,001st is the first heard, as frame 72 starts.
    ['Step', 9_999, null],
    ['Step', 10_000, 144_000],
    ['Step', 39_999, 173_999],
    // Of the reel: frame 10 is sample 20,000, whatever the shots do.
    ['Hum', 0, 20_000],
  ])('of %s at its sample %i is heard on sample %s of the reel', (name, click, sample) =>
    expect(heardAt(sounds, name, click, 152)).toBe(sample),
  );

  it('of the reel stays where it is when a shot gets longer, one of a shot moves with it', () => {
    const [first, ...rest] = film.shots;
    const longer = { ...film, shots: first ? [{ ...first, frames: 76 }, ...rest] : [] };
    expect(heardAt(soundsOfReel(longer), 'Plop', 0, 156)).toBe(198_000 + 4 * 2_000);
    expect(heardAt(soundsOfReel(longer), 'Hum', 0, 156)).toBe(20_000);
  });
});

describe('fades', () => {
  const faded = (change: Partial<Sound>): Sound => ({ ...soundOf('Hum', 0, 20_000), ...change });
  /** The factor at a sample of a mix, by the definition: min(1, s / A, (n − s) / B) · level. */
  const plain = (sound: Sound, sample: number): number => {
    const [a, b] = [sound.fadeInFrames * 2_000, sound.fadeOutFrames * 2_000];
    const shape = Math.min(1, a === 0 ? 1 : sample / a, b === 0 ? 1 : (sound.samples - sample) / b);
    return Math.max(0, shape) * 10 ** (sound.gainDecibels / 20);
  };
  const gainAt = (sound: Sound, from: number, to: number, sample: number): number => {
    const [part] = mixOf([{ sound, startFrame: 0 }], from, to, RATE, MIX_RATE).parts;
    const points = part?.gains ?? [];
    const after = points.findIndex(({ atSample }) => atSample >= sample);
    const [p, q] = [points[Math.max(0, after - 1)], points[after]];
    if (!p || !q) throw new Error('That sample is not heard.');
    return q.atSample === p.atSample ? q.gain : p.gain + ((q.gain - p.gain) * (sample - p.atSample)) / (q.atSample - p.atSample);
  };
  it('go in straight lines over whole frames (worked by hand: 2 in, 4 out, of 10)', () => {
    const [part] = mixOf([{ sound: faded({ fadeInFrames: 2, fadeOutFrames: 4 }), startFrame: 0 }], 0, 9, RATE, MIX_RATE).parts;
    expect(part?.gains).toEqual([
      { atSample: 0, gain: 0 },
      { atSample: 4_000, gain: 1 },
      { atSample: 12_000, gain: 1 },
      { atSample: 20_000, gain: 0 },
    ]);
  });
  it('that meet turn where they cross', () => {
    const [part] = mixOf([{ sound: faded({ fadeInFrames: 10, fadeOutFrames: 10 }), startFrame: 0 }], 0, 9, RATE, MIX_RATE).parts;
    expect(part?.gains).toEqual([
      { atSample: 0, gain: 0 },
      { atSample: 10_000, gain: 0.5 },
      { atSample: 20_000, gain: 0 },
    ]);
  });
  it('are the same in whatever pieces they are mixed', () => {
    const anySound = record({
      fadeInFrames: fc.nat(14),
      fadeOutFrames: fc.nat(14),
      gainDecibels: fc.constantFrom(0, -6),
      samples: fc.integer({ min: 1_000, max: 20_000 }),
    });
    fc.assert(
      fc.property(anySound, fc.nat(9), fc.nat(1_999), (change, frame, within) => {
        const sound = faded(change);
        const sample = frame * 2_000 + within;
        fc.pre(sample < sound.samples);
        const wanted = plain(sound, sample);
        expect(gainAt(sound, 0, 9, sample)).toBeCloseTo(wanted, 9);
        expect(gainAt(sound, frame, 9, within)).toBeCloseTo(wanted, 9);
      }),
    );
  });
});
