import { greatestCommonDivisor } from '@/core/time/fraction';
import { KNOWN_RATES, type Rate } from '@/core/time/rate';

/** Times of a film's frames as a player shows them, in microseconds, in the order they are shown. */
export type FileTimes = {
  readonly startMicroseconds: readonly number[];
  /** How long the last frame stands; null when the file doesn't say. */
  readonly lastDurationMicroseconds: number | null;
  /** How long the file says every frame stands, where it says so more finely than by its ticks; else null. */
  readonly statedDurationMicroseconds: number | null;
  /** How finely the container counts time. */
  readonly tickMicroseconds: number;
};

/** What a file tells of its rate: those its times fit, nearest first, none where they fit no rate; and the frames that don't stand at their time by it. */
export type ToldRate = { readonly rates: readonly Rate[]; readonly mistimedFrames: readonly number[] };

/*
 * The rate is told by the file alone. A container counts time in whole ticks, so that frame i of a rate with frame
 * length p stands within a tick of start + i·p: each frame allows the lengths from (d − tick)/i to (d + tick)/i with d
 * its distance from the start, and what all frames allow is the longest film's closest. A film of one frame has its
 * length alone. Of the named rates and the whole ones, those allowed may be meant: 24 and 24000/1001 (0.1 % apart)
 * are told apart from about 1,000 ticks on, or by a frame length that the file states in billionths of a second.
 */

/** A microsecond for what floating seconds lose. */
const HAIR_MICROSECONDS = 1;
/** A stated frame length is rounded, or cut off, to billionths of a second. */
const STATED_MICROSECONDS = 0.0011;

const frameMicroseconds = (rate: Rate): number => (rate.den * 1_000_000) / rate.num;

const CANDIDATES: readonly Rate[] = [
  ...KNOWN_RATES.map((entry) => entry.rate),
  ...Array.from({ length: 240 }, (_, index) => ({ num: index + 1, den: 1 })).filter(
    (whole) => !KNOWN_RATES.some(({ rate }) => rate.den === 1 && rate.num === whole.num),
  ),
];

/** The frame lengths that every frame allows, in microseconds; null when there are none, or when nothing tells. */
function allowedLengths(times: FileTimes): { shortest: number; longest: number; meant: number } | null {
  const starts = times.startMicroseconds;
  const first = starts[0];
  if (first === undefined) return null;
  const off = times.tickMicroseconds + HAIR_MICROSECONDS;
  if (starts.length === 1) {
    const length = times.statedDurationMicroseconds ?? times.lastDurationMicroseconds;
    return length === null ? null : { shortest: length - off, longest: length + off, meant: length };
  }
  let [shortest, longest] = [0, Number.POSITIVE_INFINITY];
  for (let index = 1; index < starts.length; index++) {
    const distance = (starts[index] as number) - first;
    shortest = Math.max(shortest, (distance - off) / index);
    longest = Math.min(longest, (distance + off) / index);
  }
  const meant = ((starts.at(-1) as number) - first) / (starts.length - 1);
  return shortest > longest || meant <= 0 ? null : { shortest, longest, meant };
}

/** Whether a frame does not start at index × den/num within the container's tick; a film starts at 0. */
const isMistimed = (times: FileTimes, lengthMicroseconds: number, frame: number): boolean =>
  Math.abs((times.startMicroseconds[frame] as number) - frame * lengthMicroseconds) > times.tickMicroseconds + HAIR_MICROSECONDS;

function mistimedAt(times: FileTimes, rate: Rate): readonly number[] {
  const length = frameMicroseconds(rate);
  const frames: number[] = [];
  for (let frame = 0; frame < times.startMicroseconds.length; frame++) if (isMistimed(times, length, frame)) frames.push(frame);
  return frames;
}

function countMistimed(times: FileTimes, rate: Rate): number {
  const length = frameMicroseconds(rate);
  let count = 0;
  for (let frame = 0; frame < times.startMicroseconds.length; frame++) if (isMistimed(times, length, frame)) count++;
  return count;
}

/** The rate that frame times give. */
export function rateOfTimes(times: FileTimes): ToldRate {
  const allowed = allowedLengths(times);
  if (allowed) {
    const nearest = (a: Rate, b: Rate) => Math.abs(frameMicroseconds(a) - allowed.meant) - Math.abs(frameMicroseconds(b) - allowed.meant);
    const fitting = CANDIDATES.filter((rate) => {
      const length = frameMicroseconds(rate);
      return length >= allowed.shortest && length <= allowed.longest;
    }).toSorted(nearest);
    const stated = times.statedDurationMicroseconds;
    const byStated =
      stated === null ? fitting : fitting.filter((rate) => Math.abs(frameMicroseconds(rate) - stated) <= STATED_MICROSECONDS);
    const rates = byStated.length > 0 || stated === null ? byStated : [unnamedRate(stated)];
    if (rates.length === 0) rates.push(unnamedRate(allowed.meant));
    return { rates, mistimedFrames: mistimedAt(times, rates[0] as Rate) };
  }
  // No rate has all frames at their time: the one that has most of them is meant, if it has more than half.
  const late = CANDIDATES.map((rate) => ({ rate, mistimed: countMistimed(times, rate) }));
  const best = late.reduce((least, other) => (other.mistimed < least.mistimed ? other : least));
  const isMeant = best.mistimed * 2 < times.startMicroseconds.length && times.startMicroseconds.length > 1;
  return { rates: isMeant ? [best.rate] : [], mistimedFrames: mistimedAt(times, best.rate) };
}

/** A rate that has no name, to a thousandth of a frame, in lowest terms. */
function unnamedRate(lengthMicroseconds: number): Rate {
  const thousandths = Math.max(1, Math.round(1_000_000_000 / lengthMicroseconds));
  const divisor = greatestCommonDivisor(thousandths, 1000);
  return { num: thousandths / divisor, den: 1000 / divisor };
}
