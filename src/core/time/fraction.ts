/** A part of the way as an exact fraction in lowest terms, from 0 to 1. */
export type Fraction = { readonly num: number; readonly den: number };

/** The greatest whole number that divides both (Euclid’s algorithm). */
export const greatestCommonDivisor = (a: number, b: number): number => (b === 0 ? a : greatestCommonDivisor(b, a % b));

/** A fraction in lowest terms; both parts whole, `den` from 1. Throws on anything else: fractions here are worked out, not typed. */
export function fraction(num: number, den: number): Fraction {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || den < 1 || num < 0) throw new Error(`${num}/${den} is no part of a way.`);
  const divisor = greatestCommonDivisor(num, den);
  return { num: num / divisor, den: den / divisor };
}

/** Below 0 when `a` is nearer the first key than `b`, 0 when they are one place. */
export function compareFractions(a: Fraction, b: Fraction): number {
  const difference = BigInt(a.num) * BigInt(b.den) - BigInt(b.num) * BigInt(a.den);
  return difference < 0n ? -1 : difference > 0n ? 1 : 0;
}

const FINEST_PARTS = 2 ** 30;

/**
 * Where `place` lies in the part of the way between `from` and `to`: (place − from) / (to − from). Exact as
 * long as its parts are whole numbers a computer holds exactly, else the nearest of 2³⁰ parts.
 */
export function placeWithin(place: Fraction, from: Fraction, to: Fraction): Fraction {
  const big = ({ num, den }: Fraction) => ({ num: BigInt(num), den: BigInt(den) });
  const [p, a, b] = [big(place), big(from), big(to)];
  const num = (p.num * a.den - a.num * p.den) * b.den;
  const den = (b.num * a.den - a.num * b.den) * p.den;
  if (den <= 0n || num < 0n) throw new Error('A place within a part of the way lies between its ends.');
  let [divisor, rest] = [num, den];
  while (rest !== 0n) [divisor, rest] = [rest, divisor % rest];
  const [lowNum, lowDen] = [num / divisor, den / divisor];
  if (lowDen <= BigInt(Number.MAX_SAFE_INTEGER)) return { num: Number(lowNum), den: Number(lowDen) };
  return fraction(Number((lowNum * BigInt(FINEST_PARTS)) / lowDen), FINEST_PARTS);
}

/** 1 − a. */
export const fromOtherEnd = (a: Fraction): Fraction => fraction(a.den - a.num, a.den);

/** As a number, for drawing on a screen. */
export const fractionValue = (a: Fraction): number => a.num / a.den;

/** As written on a chart: `1/8`. */
export const fractionText = (a: Fraction): string => `${a.num}/${a.den}`;

/** Places by hand fall on parts that hold halves, thirds, quarters, fifths, sixths and eighths alike. */
export const HAND_PARTS = 120;

/** The place by hand nearest a number from 0 to 1, never on a key itself. */
export function placeByHand(value: number): Fraction {
  return fraction(Math.max(1, Math.min(HAND_PARTS - 1, Math.round(value * HAND_PARTS))), HAND_PARTS);
}
