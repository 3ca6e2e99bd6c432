import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { KNOWN_RATES } from '@/core/time/rate';
import { frameAtMilliseconds, isExactInThousandths, secondsText, startMicroseconds, startOfFrame } from '@/core/time/seconds';

const rates = fc.constantFrom(...KNOWN_RATES.map((entry) => entry.rate));

describe('secondsText', () => {
  // Worked by hand: docs of the counts, arithmetic.
  it.each([
    [1530, 30, 1, '51.000'],
    [30, 24, 1, '1.250'],
    [96, 24, 1, '4.000'],
    [18, 30, 1, '0.600'],
    [18, 12, 1, '1.500'],
    [997, 24000, 1001, '41.583'],
    [86400, 24000, 1001, '3603.600'],
    [1, 24, 1, '0.042'],
    [0, 24, 1, '0.000'],
  ])('%i frames at %i/%i last %s s', (frames, num, den, text) => expect(secondsText(frames, { num, den })).toBe(text));

  it('knows which lengths are exact in thousandths', () => {
    expect(isExactInThousandths(1530, { num: 30, den: 1 })).toBe(true);
    expect(isExactInThousandths(997, { num: 24000, den: 1001 })).toBe(false);
    expect(isExactInThousandths(1, { num: 24, den: 1 })).toBe(false);
  });

  it('is within half a thousandth of the exact fraction', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), rates, (frames, rate) => {
        const { num, den } = startOfFrame(frames, rate);
        expect(Math.abs(Number(secondsText(frames, rate)) - num / den)).toBeLessThanOrEqual(0.0005 + 1e-9);
      }),
    );
  });
});

describe('the frame at a time', () => {
  it('is the one that has started', () => {
    expect(frameAtMilliseconds(0, { num: 24, den: 1 })).toBe(0);
    expect(frameAtMilliseconds(41.6, { num: 24, den: 1 })).toBe(0);
    expect(frameAtMilliseconds(41.67, { num: 24, den: 1 })).toBe(1);
    expect(frameAtMilliseconds(1000, { num: 24, den: 1 })).toBe(24);
  });

  it('is the frame itself at the time it starts, for every rate', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 500_000 }), rates, (frame, rate) => {
        expect(frameAtMilliseconds((frame * rate.den * 1000) / rate.num, rate)).toBe(frame);
      }),
    );
  });
});

describe('startMicroseconds', () => {
  it('is never off by more than half a microsecond, however late the frame', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), rates, (frame, rate) => {
        const exact = (BigInt(frame) * BigInt(rate.den) * 2_000_000n) / BigInt(rate.num);
        expect(Math.abs(startMicroseconds(frame, rate) * 2 - Number(exact))).toBeLessThanOrEqual(2);
      }),
    );
  });

  it('is what summed frame lengths would have missed', () => {
    const rate = { num: 24000, den: 1001 };
    const summed = Math.round((1001 / 24000) * 1e6) * 86_400;
    expect(startMicroseconds(86_400, rate)).toBe(3_603_600_000);
    expect(summed).not.toBe(3_603_600_000);
  });
});
