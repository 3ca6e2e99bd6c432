import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { record } from '@/core/testing/record';
import {
  delaysOf,
  framesForTimes,
  type HeldTime,
  heldTimesOf,
  loopMicroseconds,
  readMilliseconds,
  readTimes,
  roundedDurations,
} from '@/core/time/heldTimes';
import type { Rate } from '@/core/time/rate';

const whole = (num: number): Rate => ({ num, den: 1 });
const NTSC: readonly Rate[] = [
  { num: 24_000, den: 1001 },
  { num: 30_000, den: 1001 },
  { num: 60_000, den: 1001 },
];
const onOnes = (frames: number): readonly HeldTime[] =>
  heldTimesOf(
    Array.from({ length: frames }, () => 1),
    [],
  );
const sumOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0);

const rates = fc.constantFrom(...[12, 15, 24, 25, 30, 60].map(whole), ...NTSC);
const held = fc.array(fc.integer({ min: 1, max: 200 }), { minLength: 1, maxLength: 60 });
const byHand = fc.array(record({ place: fc.nat(59), milliseconds: fc.integer({ min: 1, max: 5000 }) }), {
  maxLength: 8,
});

describe('times of a loop in 1/100 s', () => {
  // Worked by hand in the table of GIF times.
  it.each([
    [24, 12, [4, 4, 5, 4, 4, 4, 4, 4, 5, 4, 4, 4]],
    [12, 12, [8, 9, 8, 8, 9, 8, 8, 9, 8, 8, 9, 8]],
    [30, 6, [3, 4, 3, 3, 4, 3]],
    [25, 4, [4, 4, 4, 4]],
    [15, 8, [7, 6, 7, 7, 6, 7, 7, 6]],
  ])('%i a second', (rate, frames, expected) => {
    expect(roundedDurations(onOnes(frames), whole(rate), 100)).toEqual(expected);
  });

  it('72 frames at 24 come to 3.00 s', () => {
    expect(sumOf(roundedDurations(onOnes(72), whole(24), 100))).toBe(300);
  });

  it('a held drawing has the sum of the times of its frames', () => {
    const ones = roundedDurations(onOnes(12), whole(24), 100);
    const twos = roundedDurations(heldTimesOf([2, 2, 2, 2, 2, 2], []), whole(24), 100);
    expect(twos).toEqual(twos.map((_, index) => (ones[index * 2] as number) + (ones[index * 2 + 1] as number)));
  });

  it('never adds up to more than half a unit from the true length, whatever is held and given by hand', () => {
    fc.assert(
      fc.property(held, byHand, rates, fc.constantFrom(100, 1000), (frames, times, rate, units) => {
        const all = heldTimesOf(frames, times);
        const durations = roundedDurations(all, rate, units);
        const apart = Math.abs((sumOf(durations) * 1_000_000) / units - loopMicroseconds(all, rate));
        expect(apart).toBeLessThanOrEqual(500_000 / units + 0.5);
        expect(durations.every((duration) => duration >= 0)).toBe(true);
      }),
    );
  });
});

describe('times of a loop as fractions of a second in 16 bits', () => {
  it('are exact where they can be: 1001/24000 of 23.976, and a held drawing of 48 frames', () => {
    expect(delaysOf(heldTimesOf([1, 48], []), { num: 24_000, den: 1001 })).toEqual([
      { num: 1001, den: 24_000 },
      { num: 1001, den: 500 },
    ]);
  });

  it('997 frames of 23.976 are rounded to the finest parts that fit', () => {
    const [delay] = delaysOf(heldTimesOf([997], []), { num: 24_000, den: 1001 });
    expect((delay?.num ?? 0) / (delay?.den ?? 1)).toBeCloseTo(41.583_208, 3);
  });

  it('never add up to anything but the true length by more than a part of the last', () => {
    fc.assert(
      fc.property(held, byHand, rates, (frames, times, rate) => {
        const all = heldTimesOf(frames, times);
        const delays = delaysOf(all, rate);
        for (const { num, den } of delays) expect(num <= 65_535 && den >= 1 && den <= 65_535).toBe(true);
        const said = sumOf(delays.map(({ num, den }) => num / den)) * 1_000_000;
        expect(Math.abs(said - loopMicroseconds(all, rate))).toBeLessThan(600);
      }),
    );
  });
});

describe('times given by hand as frames', () => {
  it('a picture begins on the nearest frame, and how far it drifts is said', () => {
    const all = heldTimesOf([2, 2, 2], [{ place: 0, milliseconds: 100 }]);
    // 0.1 s is 2.4 frames at 24: the second picture begins on frame 2, 16.7 ms early, and so does what follows.
    expect(framesForTimes(all, whole(24))).toEqual({ frames: [2, 2, 2], driftMicroseconds: 16_667 });
  });

  it('a picture too short for a frame still has one', () => {
    expect(framesForTimes(heldTimesOf([1, 1], [{ place: 0, milliseconds: 1 }]), whole(24)).frames).toEqual([1, 1]);
  });

  it('times that are whole frames come back without drift', () => {
    fc.assert(
      fc.property(held, fc.constantFrom(whole(25), whole(20), whole(10)), (frames, rate) => {
        const times = frames.map((each, place) => ({ place, milliseconds: (each * 1000) / rate.num }));
        expect(framesForTimes(heldTimesOf(frames, times), rate)).toEqual({ frames, driftMicroseconds: 0 });
      }),
    );
  });
});

describe('times as they are typed', () => {
  it.each([
    ['120', 120],
    ['120 ms', 120],
    ['0.12 s', 120],
    ['0,5s', 500],
    ['12/100', 120],
    ['12 / 100 s', 120],
    ['0', null],
    ['-5', null],
    ['soon', null],
    ['601000', null],
  ])('%s', (text, milliseconds) => expect(readMilliseconds(text)).toBe(milliseconds));

  it('one after another, with those left out that are not given', () => {
    expect(readTimes('120 - 12/100; 0.5s')).toEqual([120, null, 120, 500]);
    expect(readTimes('')).toEqual([]);
    expect(readTimes('120 soon')).toBeNull();
  });
});
