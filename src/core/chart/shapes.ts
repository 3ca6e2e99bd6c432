import { type ChartShape, MOST_INBETWEENS } from '@/core/document/timingChart';
import { compareFractions, type Fraction, fraction, fromOtherEnd } from '@/core/time/fraction';

export type MadeShape = Exclude<ChartShape, 'hand'>;

/*
 * Each shape is written for one end, as places for k = 1 … n from the first key; the other end is its
 * mirror, place k becoming 1 − place (n + 1 − k).
 *
 * halves towards the first   1/2ⁿ … 1/8 1/4 1/2: each midway of what is left (common practice)
 * halves towards both        the lower half of them as halves towards the first, the upper half mirrored,
 *                            an odd one in the middle on 1/2: 1/8 1/4 (1/2) 3/4 7/8
 * thirds towards the first   1/3ⁿ … 1/9 1/3: one third of what is left (common practice for one in-between)
 * slow out of the first      t³ at even times t = k/(n + 1)
 * slow at both ends          3t² − 2t³
 * by count, out of the first gaps of 1, 2, 3, … parts: place k = k(k + 1) / ((n + 1)(n + 2))
 * by count, both ends        gaps of 1, 2, 3, … 3, 2, 1 parts
 * favouring the first        t/3 + 2t²/3: one in-between falls on 1/3, and the order is kept since the slope
 *                            1/3 + 4t/3 is never 0
 */

type Places = (inbetweens: number) => readonly Fraction[];

const each = (count: number, place: (k: number) => Fraction): readonly Fraction[] =>
  Array.from({ length: count }, (_, index) => place(index + 1));

const mirrored =
  (places: Places): Places =>
  (count) =>
    places(count).map(fromOtherEnd).toReversed();

const even: Places = (n) => each(n, (k) => fraction(k, n + 1));
const halvesFirst: Places = (n) => each(n, (k) => fraction(1, 2 ** (n - k + 1)));
const thirdsFirst: Places = (n) => each(n, (k) => fraction(1, 3 ** (n - k + 1)));
const slowOut: Places = (n) => each(n, (k) => fraction(k ** 3, (n + 1) ** 3));
const countOut: Places = (n) => each(n, (k) => fraction(k * (k + 1), (n + 1) * (n + 2)));
const favourFirst: Places = (n) => each(n, (k) => fraction(k * (n + 1) + 2 * k * k, 3 * (n + 1) ** 2));
const slowBoth: Places = (n) => each(n, (k) => fraction(3 * k * k * (n + 1) - 2 * k ** 3, (n + 1) ** 3));

const halvesBoth: Places = (n) => {
  const half = Math.floor(n / 2);
  // Halves of one end only: the last of them is 1/4, since 1/2 belongs to the middle.
  const lower = each(half, (k) => fraction(1, 2 ** (half - k + 2)));
  const middle = n % 2 === 1 ? [fraction(1, 2)] : [];
  return [...lower, ...middle, ...lower.map(fromOtherEnd).toReversed()];
};

const countBoth: Places = (n) => {
  const gaps = Array.from({ length: n + 1 }, (_, index) => Math.min(index + 1, n + 1 - index));
  const total = gaps.reduce((sum, gap) => sum + gap, 0);
  let gone = 0;
  return gaps.slice(0, n).map((gap) => {
    gone += gap;
    return fraction(gone, total);
  });
};

/** Each shape by the one it is worked out by, and how. */
const EXACT: Record<MadeShape, { readonly places: Places; readonly end: 'first' | 'second' | 'both' }> = {
  even: { places: even, end: 'both' },
  halvesFirst: { places: halvesFirst, end: 'first' },
  halvesSecond: { places: halvesFirst, end: 'second' },
  halvesBoth: { places: halvesBoth, end: 'both' },
  thirdsFirst: { places: thirdsFirst, end: 'first' },
  thirdsSecond: { places: thirdsFirst, end: 'second' },
  slowOut: { places: slowOut, end: 'first' },
  slowIn: { places: slowOut, end: 'second' },
  slowBoth: { places: slowBoth, end: 'both' },
  countOut: { places: countOut, end: 'first' },
  countIn: { places: countOut, end: 'second' },
  countBoth: { places: countBoth, end: 'both' },
  favourFirst: { places: favourFirst, end: 'first' },
  favourSecond: { places: favourFirst, end: 'second' },
};

/** Nobody draws a place finer than this many parts of the way: on a chart as long as a hand, a part is a millimetre and a half. */
export const DRAWABLE_PARTS = 64;

/** The drawable place nearest another one: itself when it has few enough parts. */
export const nearestDrawable = (place: Fraction): Fraction =>
  place.den <= DRAWABLE_PARTS ? place : fraction(Math.round((place.num * DRAWABLE_PARTS) / place.den), DRAWABLE_PARTS);

/** Places that grow from the first key on, each the nearest drawable one past the one before. */
function drawable(places: readonly Fraction[]): readonly Fraction[] {
  const all: Fraction[] = [];
  let last = fraction(0, 1);
  for (const place of places) {
    const nearest = nearestDrawable(place);
    const next = Math.floor((last.num * DRAWABLE_PARTS) / last.den) + 1;
    last = compareFractions(nearest, last) > 0 ? nearest : fraction(next, DRAWABLE_PARTS);
    all.push(last);
  }
  return all;
}

/** Drawable places of a shape; what mirrors itself, or another, does so after rounding as before it. */
function drawableOf({ places, end }: (typeof EXACT)[MadeShape], inbetweens: number): readonly Fraction[] {
  const exact = places(inbetweens);
  if (end === 'first') return drawable(exact);
  if (end === 'second') return mirrored(() => drawable(exact))(inbetweens);
  const lower = drawable(exact.slice(0, Math.floor(inbetweens / 2)));
  const middle = inbetweens % 2 === 1 ? [fraction(1, 2)] : [];
  return [...lower, ...middle, ...lower.map(fromOtherEnd).toReversed()];
}

/** How many places of a shape are not where it has them, since nobody could draw there. */
export function roundedPlaces(shape: MadeShape, inbetweens: number): number {
  const { places, end } = EXACT[shape];
  const exact = end === 'second' ? mirrored(places)(inbetweens) : places(inbetweens);
  return chartPlaces(shape, inbetweens).filter((place, index) => compareFractions(place, exact[index] as Fraction) !== 0).length;
}

/** Every shape that can be worked out, in the order they are offered. */
export const MADE_SHAPES = Object.keys(EXACT) as readonly MadeShape[];

/**
 * Where `inbetweens` drawings lie, strictly growing between 0 and 1 (neither included), each on a place somebody can draw.
 * Throws outside 0 … MOST_INBETWEENS: whoever asks has looked before.
 */
export function chartPlaces(shape: MadeShape, inbetweens: number): readonly Fraction[] {
  if (!Number.isInteger(inbetweens) || inbetweens < 0 || inbetweens > MOST_INBETWEENS)
    throw new Error(`No chart holds ${inbetweens} in-betweens.`);
  return drawableOf(EXACT[shape], inbetweens);
}

/** A shape in words, between the numbers of its keys. */
export function shapeWords(shape: ChartShape, first: string, second: string): string {
  const words: Record<ChartShape, string> = {
    even: 'even',
    halvesFirst: `halves to ${first}`,
    halvesSecond: `halves to ${second}`,
    halvesBoth: 'halves to both',
    thirdsFirst: `thirds to ${first}`,
    thirdsSecond: `thirds to ${second}`,
    slowOut: `slow out of ${first}`,
    slowIn: `slow into ${second}`,
    slowBoth: 'slow at both',
    countOut: `by count out of ${first}`,
    countIn: `by count into ${second}`,
    countBoth: 'by count at both',
    favourFirst: `favour ${first}`,
    favourSecond: `favour ${second}`,
    hand: 'by hand',
  };
  return words[shape];
}
