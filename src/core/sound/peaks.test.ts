import { describe, expect, it } from 'vitest';
import type { Sound } from '@/core/document/sound';
import { loudnessOf, PEAK_SAMPLES, peaksOf, peakWithin } from '@/core/sound/peaks';
import { soundOf } from '@/core/testing/sheets';

describe('how loud a recording is along its length', () => {
  const channel = new Float32Array(PEAK_SAMPLES * 3 + 10);
  channel[5] = 0.5;
  channel[PEAK_SAMPLES] = -1;
  channel[PEAK_SAMPLES * 3 + 9] = 2;
  const peaks = peaksOf([channel, channel.map((value) => value / 2)]);

  it('is the loudest sample of any channel in every part, the last part shorter, nothing above 1', () => {
    expect([...peaks]).toEqual([128, 255, 0, 255]);
    expect([...peaksOf([])]).toEqual([]);
  });

  it.each([
    [0, PEAK_SAMPLES, 128 / 255],
    [0, PEAK_SAMPLES + 1, 1],
    [PEAK_SAMPLES * 2, PEAK_SAMPLES * 3, 0],
    [PEAK_SAMPLES * 3, PEAK_SAMPLES * 9, 1],
    [PEAK_SAMPLES * 8, PEAK_SAMPLES * 9, 0],
    [-50, 0, 0],
  ])('from sample %i to %i is %f', (from, to, peak) => expect(peakWithin(peaks, from, to)).toBeCloseTo(peak, 9));
});

describe('how far a sound reaches where it is drawn', () => {
  const rate = { num: 24, den: 1 };
  // A recording of two seconds of 48,000 samples, silent for the first, at a quarter of full loudness in the second.
  const channel = new Float32Array(96_000).fill(0.25, 48_000);
  const peaks = peaksOf([channel]);
  const sound = (fromSample: number, samples: number): Sound => ({ ...soundOf('Hum', 0, samples), fromSample });

  it('is the root of its loudness in each part of its frames, and nothing past its end', () => {
    const whole = loudnessOf(sound(0, 96_000), peaks, rate, 0, 50, 4);
    expect(whole).toHaveLength(200);
    expect(whole.slice(0, 94).every((part) => part === 0)).toBe(true);
    for (const part of whole.slice(98, 190)) expect(part).toBeCloseTo(Math.sqrt(64 / 255), 6);
    expect(whole.slice(193).every((part) => part === 0)).toBe(true);
  });

  it('counts from where the recording is heard', () => {
    const trimmed = loudnessOf(sound(48_000, 24_000), peaks, rate, 0, 12, 4);
    expect(trimmed.every((part) => part > 0.5)).toBe(true);
    expect(
      loudnessOf(sound(48_000, 24_000), peaks, rate, 12, 14, 4)
        .slice(1)
        .every((part) => part === 0),
    ).toBe(true);
  });
});
