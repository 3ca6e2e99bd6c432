import { KNOWN_RATES, type Rate } from '@/core/time/rate';

/** Times of a film's frames as its file gives them, in microseconds; `quantumMicroseconds` is how finely the container counts. */
export type FileTimes = {
  readonly startMicroseconds: readonly number[];
  readonly lastDurationMicroseconds: number;
  readonly quantumMicroseconds: number;
};

/*
 * A container counts time in whole ticks, so n−1 frame lengths are known to one tick in all: the longer
 * the film, the closer the rate. Of the named rates and the whole ones, the nearest that lies within
 * that error is meant; 24 and 24000/1001 (0.1 % apart) are told apart from about 1,000 ticks on. Where
 * several fit, as in a film of very few frames, the one that was asked for is taken if it fits.
 */

/** The rate that frame times give; `asked` is preferred where the times fit it. Null for a film without frames. */
export function rateOfTimes(times: FileTimes, asked: Rate): Rate | null {
  const count = times.startMicroseconds.length;
  if (count === 0) return null;
  const first = times.startMicroseconds[0] as number;
  const last = times.startMicroseconds[count - 1] as number;
  const spanFrames = count === 1 ? 1 : count - 1;
  const span = count === 1 ? times.lastDurationMicroseconds : last - first;
  const misses = (rate: Rate) => Math.abs((spanFrames * rate.den * 1_000_000) / rate.num - span);
  const whole = Array.from({ length: 240 }, (_, index) => ({ num: index + 1, den: 1 }));
  const candidates = [asked, ...KNOWN_RATES.map((entry) => entry.rate), ...whole];
  const fitting = candidates.find((rate) => misses(rate) <= times.quantumMicroseconds + 1);
  if (fitting) return fitting;
  if (span <= 0) return null;
  return { num: Math.round((spanFrames * 1_000_000_000) / span), den: 1000 };
}

/** Frames that do not start at index × den/num within the container's tick. */
export function mistimedFrames(times: FileTimes, rate: Rate): readonly number[] {
  const late: number[] = [];
  times.startMicroseconds.forEach((start, index) => {
    if (Math.abs(start - (index * rate.den * 1_000_000) / rate.num) > times.quantumMicroseconds + 1) late.push(index);
  });
  return late;
}
