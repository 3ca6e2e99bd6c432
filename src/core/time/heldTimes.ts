import { greatestCommonDivisor } from '@/core/time/fraction';
import type { Rate } from '@/core/time/rate';

/*
 * Times of pictures in a loop. A picture is held for as many frames as the sheet says, or for so many milliseconds as were given
 * by hand. Formats count time in units of their own, 1/100 s or ms; each picture begins at the unit that is nearest to its true
 * beginning (half up), so that what is rounded never adds up: a loop of n frames is right to half a unit.
 *
 * A true beginning is F frames and M milliseconds after the first, F · den / num + M / 1000 seconds, which is
 * (1000 · F · den + M · num) / (1000 · num): a whole number over another, and rounded as such.
 */

/** How long a picture is held: frames at the film's rate, or milliseconds. */
export type HeldTime =
  | { readonly kind: 'frames'; readonly frames: number }
  | { readonly kind: 'milliseconds'; readonly milliseconds: number };

/** A time that was given by hand to the picture at a place in the loop, from 0. */
export type HandTime = { readonly place: number; readonly milliseconds: number };

/** The longest time that can be given by hand, in milliseconds. */
export const MOST_MILLISECONDS = 600_000;

/** Browsers show a picture of a GIF for longer than it says where that is less (common practice), in 1/100 s. */
export const LEAST_GIF_CENTISECONDS = 2;

/** How long each picture is held: for its frames, unless a time was given by hand to its place. */
export function heldTimesOf(frames: readonly number[], times: readonly HandTime[]): readonly HeldTime[] {
  const byHand = new Map(times.map(({ place, milliseconds }) => [place, milliseconds]));
  return frames.map((each, place): HeldTime => {
    const milliseconds = byHand.get(place);
    return milliseconds === undefined ? { kind: 'frames', frames: each } : { kind: 'milliseconds', milliseconds };
  });
}

/** The true end of each picture, as `num` over `den` seconds. */
function endsOf(held: readonly HeldTime[], rate: Rate): { readonly ends: readonly bigint[]; readonly den: bigint } {
  let [frames, milliseconds] = [0, 0];
  const ends = held.map((each) => {
    if (each.kind === 'frames') frames += each.frames;
    else milliseconds += each.milliseconds;
    return BigInt(frames) * 1000n * BigInt(rate.den) + BigInt(milliseconds) * BigInt(rate.num);
  });
  return { ends, den: 1000n * BigInt(rate.num) };
}

/** num / den rounded to the nearest whole number, half up; both from 0. */
const rounded = (num: bigint, den: bigint): number => Number((2n * num + den) / (2n * den));

/** How many units each picture lasts, of which there are so many in a second. */
export function roundedDurations(held: readonly HeldTime[], rate: Rate, unitsPerSecond: number): readonly number[] {
  const { ends, den } = endsOf(held, rate);
  let start = 0;
  return ends.map((end) => {
    const at = rounded(end * BigInt(unitsPerSecond), den);
    const duration = at - start;
    start = at;
    return duration;
  });
}

/** How long a loop truly lasts, in microseconds, rounded. */
export function loopMicroseconds(held: readonly HeldTime[], rate: Rate): number {
  const { ends, den } = endsOf(held, rate);
  return rounded((ends.at(-1) ?? 0n) * 1_000_000n, den);
}

/** A time as a fraction of a second, both parts in 16 bits. */
export type Delay = { readonly num: number; readonly den: number };
const MOST_PART = 65_535;

/**
 * How long each picture lasts as a fraction of a second whose parts are in 16 bits: exactly, wherever that can be said so. A
 * longer fraction is rounded to the finest parts of a second in which it can, from where the pictures before it truly end.
 */
export function delaysOf(held: readonly HeldTime[], rate: Rate): readonly Delay[] {
  const { ends, den } = endsOf(held, rate);
  // What the delays so far say, as a fraction; it is the true end but after one that had to be rounded.
  let said = { num: 0n, den: 1n };
  return ends.map((end) => {
    const wanted = { num: end * said.den - said.num * den, den: den * said.den };
    const delay = inSixteenBits(wanted.num < 0n ? 0n : wanted.num, wanted.den);
    const num = said.num * BigInt(delay.den) + BigInt(delay.num) * said.den;
    said = lowest(num, said.den * BigInt(delay.den));
    return delay;
  });
}

function lowest(num: bigint, den: bigint): { num: bigint; den: bigint } {
  let [a, b] = [num, den];
  while (b > 0n) [a, b] = [b, a % b];
  return a === 0n ? { num: 0n, den: 1n } : { num: num / a, den: den / a };
}

function inSixteenBits(num: bigint, den: bigint): Delay {
  const exact = lowest(num, den);
  if (exact.num <= MOST_PART && exact.den <= MOST_PART) return { num: Number(exact.num), den: Number(exact.den) };
  // Within num ≤ 65,535 the finest parts of a second are floor(65,535 · den / num), and at most 65,535.
  const finest = (BigInt(MOST_PART) * den) / num;
  const parts = finest < 1n ? 1 : Number(finest > BigInt(MOST_PART) ? BigInt(MOST_PART) : finest);
  const units = Math.min(MOST_PART, rounded(num * BigInt(parts), den));
  const divisor = units === 0 ? parts : greatestCommonDivisor(units, parts);
  return { num: units / divisor, den: parts / divisor };
}

/** Durations in words, as `4 4 5 4 …`: those that come again and again once. */
export function durationWords(durations: readonly number[], most = 12): string {
  return `${durations.slice(0, most).join(' ')}${durations.length > most ? ' …' : ''}`;
}

/**
 * What times in milliseconds come to in frames: each picture begins on the frame that is nearest to its time (half up), as in
 * every change of a rate, and lasts at least one frame where the sheet has to show it. `driftMicroseconds` is the farthest that a
 * picture begins from its time.
 */
export function framesForTimes(
  held: readonly HeldTime[],
  rate: Rate,
): { readonly frames: readonly number[]; readonly driftMicroseconds: number } {
  const { ends, den } = endsOf(held, rate);
  let [start, drift] = [0, 0];
  const frames = ends.map((end) => {
    const nearest = rounded(end * BigInt(rate.num), den * BigInt(rate.den));
    const at = Math.max(start + 1, nearest);
    const apart = Number(BigInt(at) * den * BigInt(rate.den) - end * BigInt(rate.num)) / Number(den * BigInt(rate.num));
    drift = Math.max(drift, Math.abs(apart) * 1e6);
    const length = at - start;
    start = at;
    return length;
  });
  return { frames, driftMicroseconds: Math.round(drift) };
}

/** How often it is played, in words. */
export const playsWords = (plays: number): string => (plays === 0 ? 'on a loop' : plays === 1 ? 'once' : `${plays} times`);

/** Milliseconds of a text as `120`, `120 ms`, `0.12 s` or `12/100`; null where it is none, or longer than can be given. */
export function readMilliseconds(text: string): number | null {
  const [, number, unit] = /^\s*(\d+(?:[.,]\d+)?)\s*(ms|s|\/\s*100(?:\s*s)?)?\s*$/.exec(text) ?? [];
  if (number === undefined) return null;
  const scale = unit === 's' ? 1000 : unit?.startsWith('/') ? 10 : 1;
  const milliseconds = Math.round(Number(number.replace(',', '.')) * scale);
  return milliseconds >= 1 && milliseconds <= MOST_MILLISECONDS ? milliseconds : null;
}

/** Times one after another, parted by spaces or semicolons, `-` for one that is not given: `120 - 12/100 0.5s`; null where one is none. */
export function readTimes(text: string): readonly (number | null)[] | null {
  const times = text
    .split(/[\s;]+/)
    .filter((each) => each !== '')
    .map((each) => (each === '-' ? null : (readMilliseconds(each) ?? Number.NaN)));
  return times.some(Number.isNaN) ? null : times;
}
