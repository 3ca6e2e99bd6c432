import fc from 'fast-check';
import { expect, it } from 'vitest';
import { LOUDNESS_A_SECOND, LoudnessCurve } from '@/core/outside/soundShift';

const rates = fc.constantFrom(8000, 11_025, 22_050, 44_100, 48_000);

it('is as loud each hundredth of a second as its samples are, however they come in parts', () => {
  fc.assert(
    fc.property(
      rates,
      fc.integer({ min: 1, max: 2 }),
      fc.integer({ min: -900, max: 900 }),
      fc.array(fc.integer({ min: 1, max: 700 }), { minLength: 1, maxLength: 8 }),
      (sampleRate, channels, firstSample, lengths) => {
        const level = (sample: number, channel: number) => Math.sin(sample * 0.7 + channel);
        const curve = new LoudnessCurve(sampleRate);
        const sums = new Map<number, { squares: number; count: number }>();
        let startSample = firstSample;
        for (const length of lengths) {
          const part = Array.from({ length: channels }, (_, channel) =>
            Float32Array.from({ length }, (_each, index) => level(startSample + index, channel)),
          );
          curve.take(part, startSample);
          for (let index = Math.max(0, -startSample); index < length; index++) {
            const step = Math.floor(((startSample + index) * LOUDNESS_A_SECOND) / sampleRate);
            const sum = sums.get(step) ?? { squares: 0, count: 0 };
            for (const channel of part) sum.squares += (channel[index] as number) ** 2;
            sum.count += channels;
            sums.set(step, sum);
          }
          startSample += length;
        }
        const steps = Math.max(-1, ...sums.keys()) + 1;
        expect(curve.curve.length).toBe(steps);
        for (let step = 0; step < steps; step++) {
          const { squares, count } = sums.get(step) ?? { squares: 0, count: 1 };
          expect(curve.curve[step]).toBeCloseTo(Math.sqrt(squares / count), 6);
        }
      },
    ),
  );
});
