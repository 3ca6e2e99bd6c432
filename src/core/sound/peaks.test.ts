import { describe, expect, it } from 'vitest';
import { PEAK_SAMPLES, peaksOf, peakWithin } from '@/core/sound/peaks';

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
