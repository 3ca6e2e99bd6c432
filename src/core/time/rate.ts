import { done, type Outcome, refused } from '@/core/outcome';
import { greatestCommonDivisor } from '@/core/time/fraction';

/** Frames a second as an exact fraction in lowest terms: 24 is 24/1, 23.976 is 24000/1001. */
export type Rate = { readonly num: number; readonly den: number };

/** Slowest and fastest rates a project may have, in whole frames a second (inclusive). */
export const RATE_LIMITS = { slowest: 1, fastest: 240 } as const;

const LARGEST_PART = 1_000_000;

/**
 * A rate from its two whole numbers, brought to lowest terms.
 * Refuses parts that are not whole numbers from 1, and rates outside RATE_LIMITS.
 */
export function makeRate(num: number, den = 1): Outcome<Rate> {
  for (const [part, value] of [
    ['first', num],
    ['second', den],
  ] as const) {
    if (!Number.isInteger(value) || value < 1 || value > LARGEST_PART) {
      return refused(
        `A rate of ${num}/${den} makes no sense: its ${part} number must be a whole number from 1 to 1,000,000, as in 24/1 or 24000/1001.`,
      );
    }
  }
  if (num < RATE_LIMITS.slowest * den || num > RATE_LIMITS.fastest * den) {
    return refused(
      `A rate of ${num}/${den} is outside what can be planned: choose from ${RATE_LIMITS.slowest} to ${RATE_LIMITS.fastest} frames a second.`,
    );
  }
  const divisor = greatestCommonDivisor(num, den);
  return done({ num: num / divisor, den: den / divisor });
}

/** Rates met in practice, slowest first, each with the name people say (common practice). */
export const KNOWN_RATES: readonly { readonly rate: Rate; readonly name: string }[] = [
  { rate: { num: 12, den: 1 }, name: '12' },
  { rate: { num: 15, den: 1 }, name: '15' },
  { rate: { num: 24000, den: 1001 }, name: '23.976' },
  { rate: { num: 24, den: 1 }, name: '24' },
  { rate: { num: 25, den: 1 }, name: '25' },
  { rate: { num: 30000, den: 1001 }, name: '29.97' },
  { rate: { num: 30, den: 1 }, name: '30' },
  { rate: { num: 48, den: 1 }, name: '48' },
  { rate: { num: 50, den: 1 }, name: '50' },
  { rate: { num: 60000, den: 1001 }, name: '59.94' },
  { rate: { num: 60, den: 1 }, name: '60' },
];

/** Whether two rates in lowest terms are the same rate. */
export const sameRate = (a: Rate, b: Rate): boolean => a.num === b.num && a.den === b.den;

/** The whole number of frames that timecode counts in a second: 24 for 24000/1001, 30 for 30000/1001. */
export const nominalRate = (rate: Rate): number => Math.round(rate.num / rate.den);

/** The rate as people say it: `24`, `23.976`, or `17.5` for one with no name. */
export function rateName(rate: Rate): string {
  const known = KNOWN_RATES.find((entry) => sameRate(entry.rate, rate));
  if (known) return known.name;
  return rate.den === 1 ? String(rate.num) : String(Number((rate.num / rate.den).toFixed(3)));
}

/** The rate by its exact parts: `24/1`, `24000/1001`. */
export const rateFraction = (rate: Rate): string => `${rate.num}/${rate.den}`;

/**
 * Reads a rate as people write it: `24`, `23.976`, `24000/1001`.
 * A decimal is read exactly as the named rate it abbreviates, else as the decimal fraction it is.
 */
export function parseRate(text: string): Outcome<Rate> {
  const trimmed = text.trim();
  const fraction = /^(\d+)\s*\/\s*(\d+)$/.exec(trimmed);
  if (fraction) return makeRate(Number(fraction[1]), Number(fraction[2]));
  const named =
    KNOWN_RATES.find((entry) => entry.name === trimmed) ??
    (/^23\.98$/.test(trimmed) ? KNOWN_RATES.find((entry) => entry.name === '23.976') : undefined);
  if (named) return done(named.rate);
  const decimal = /^(\d+)(?:\.(\d{1,3}))?$/.exec(trimmed);
  if (!decimal) {
    return refused(`“${text}” is not a rate: write frames a second as 24, 23.976 or 24000/1001.`);
  }
  const places = decimal[2] ?? '';
  return makeRate(Number(`${decimal[1]}${places}`), 10 ** places.length);
}
