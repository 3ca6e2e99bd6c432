import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkSound, framesOfSamples, sampleOfFrame, secondsOfSamples, soundFrom, wholeFramesOfSamples } from '@/core/document/sound';
import { soundOf } from '@/core/testing/sheets';
import { KNOWN_RATES, type Rate } from '@/core/time/rate';

const AT_24: Rate = { num: 24, den: 1 };
const NTSC: Rate = { num: 30000, den: 1001 };

describe('frames and samples (48,000 samples a second and 1001/30000 s a frame are published; the rest by hand)', () => {
  it.each<[string, number, Rate, number, number]>([
    ['24 at 48,000: 2,000 samples a frame', 1, AT_24, 48_000, 2_000],
    ['a minute of it', 1440, AT_24, 48_000, 2_880_000],
    ['25 at 44,100: 1,764 samples a frame', 25, { num: 25, den: 1 }, 44_100, 44_100],
    // Five frames of 29.97 in 8,008 samples of 48 kHz: SMPTE ST 299-1, from memory; the exact fraction is held below.
    ['29.97: five frames are 8,008 samples', 5, NTSC, 48_000, 8_008],
    ['29.97: one is 1,601.6, to the nearest', 1, NTSC, 48_000, 1_602],
    ['29.97: two are 3,203.2', 2, NTSC, 48_000, 3_203],
    ['23.976: 2,002 samples a frame', 7, { num: 24000, den: 1001 }, 48_000, 14_014],
    ['before the beginning', -3, AT_24, 48_000, -6_000],
  ])('%s', (_words, frame, rate, sampleRate, sample) => expect(sampleOfFrame(frame, rate, sampleRate)).toBe(sample));

  it.each<[number, number, number]>([
    [1, 1, 0],
    [1_999, 1, 0],
    [2_000, 1, 1],
    [2_001, 2, 1],
    [24_000, 12, 12],
  ])('%i samples touch %i frames at 24 and fill %i', (samples, touched, whole) => {
    expect(framesOfSamples(samples, AT_24, 48_000)).toBe(touched);
    expect(wholeFramesOfSamples(samples, AT_24, 48_000)).toBe(whole);
  });

  it('never drift: a frame’s sample is within half of one of where it is in time, however far on', () => {
    fc.assert(
      fc.property(
        fc.nat(500_000),
        fc.constantFrom(...KNOWN_RATES),
        fc.constantFrom(44_100, 48_000, 96_000),
        (frame, { rate }, sampleRate) => {
          const exact = BigInt(frame) * BigInt(rate.den) * BigInt(sampleRate) * 2n;
          const off = BigInt(sampleOfFrame(frame, rate, sampleRate)) * BigInt(rate.num) * 2n - exact;
          expect(off <= BigInt(rate.num) && off > -BigInt(rate.num)).toBe(true);
        },
      ),
    );
  });

  it('says seconds to the thousandth', () => {
    expect(secondsOfSamples(24_000, 48_000)).toBe('0.500');
    expect(secondsOfSamples(300, 48_000)).toBe('0.006');
    expect(secondsOfSamples(44_100 * 61 + 22, 44_100)).toBe('61.000');
  });
});

describe('what is left of a sound when the picture before a frame is cut away', () => {
  it.each([
    ['starts later: moves up', 10, 4, { startFrame: 6, fromSample: 0, samples: 9_000 }],
    ['starts there', 4, 4, { startFrame: 0, fromSample: 0, samples: 9_000 }],
    ['began before: cut by as many frames', 3, 5, { startFrame: 0, fromSample: 4_000, samples: 5_000 }],
  ])('%s', (_words, startFrame, cutTo, expected) => {
    expect(soundFrom(soundOf('Plop', startFrame, 9_000), cutTo, AT_24)).toMatchObject(expected);
  });

  it('is nothing when it was over before', () => {
    expect(soundFrom(soundOf('Plop', 0, 9_000), 5, AT_24)).toBeNull();
    expect(soundFrom(soundOf('Plop', 0, 10_000), 5, AT_24)).toBeNull();
    expect(soundFrom(soundOf('Plop', 0, 10_001), 5, AT_24)).toMatchObject({ fromSample: 10_000, samples: 1 });
  });
});

describe('a sound that can’t be', () => {
  const sound = soundOf('Plop', 3, 9_000);
  it.each([
    ['has no name', { name: ' ' }, /needs a name/],
    ['starts between frames', { startFrame: 1.5 }, /starts on one of the frames of its shot, or of the reel/],
    ['starts before its shot', { startFrame: -1 }, /starts on one of the frames of its shot, or of the reel/],
    ['has nothing to be heard', { samples: 0 }, /at least one sample/],
    ['ends after its recording', { fromSample: 1, samples: 9_000 }, /there are 9000/],
    ['is louder than can be', { gainDecibels: 13 }, /-60 to \+12 dB/],
    ['lasts too long', { recording: { ...sound.recording, samples: 48_000 * 1201 } }, /up to 20 minutes/],
  ])('%s', (_words, change, reason) => {
    const checked = checkSound({ ...sound, ...change });
    expect(checked.ok ? '' : checked.reason).toMatch(reason);
  });

  it('but one that can, can', () => expect(checkSound(sound).ok).toBe(true));
});
