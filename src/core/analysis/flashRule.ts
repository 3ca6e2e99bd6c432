/*
 * Flash safety by WCAG 2.2, success criterion 2.3.1 and its definitions:
 * - general flash: "a pair of opposing changes in relative luminance of 10% or more of the maximum relative
 *   luminance (1.0) where the relative luminance of the darker image is below 0.80";
 * - red flash: "any pair of opposing transitions involving a saturated red", one where "one transition is either
 *   to or from a state with a value R/(R + G + B) that is greater than or equal to 0.8, and the difference between
 *   states is more than 0.2 (unitless) in the CIE 1976 UCS chromaticity diagram";
 * - below the threshold: no more than three of either "within any one-second period", or "the combined area of
 *   flashes occurring concurrently occupies no more than … (25% of any 10 degree visual field on the screen)",
 *   where "a 341 x 256 pixel rectangle anywhere on the displayed screen area when the content is viewed at 1024 x
 *   768 pixels will provide a good estimate of a 10 degree visual field".
 *
 * Here: a flash is one of one place. Within a period of a second each cell is followed by itself, from the light
 * before the period's first frame on; it turns on the frame on which it has changed far enough since its last turn,
 * against the direction of that turn (of its first turn, in either). Two turns are a flash. The period holds n
 * flashes when the cells that make n or more within it take more than a quarter of the rectangle at one of its
 * places, whatever their phase. Each period is looked at afresh, so that nothing before it takes anything from it.
 * Within a second are frames that lie at most one second apart.
 */

/** A change of luminance from this on, of the greatest luminance 1, is a turn … */
const LEAST_CHANGE = 0.1;
/** … where the darker is below this. */
const DARKER_BELOW = 0.8;
/** From this part of red on a state is saturated red. */
const SATURATED_RED = 0.8;
/** Two states further apart than this in u′, v′ may make a turn. */
const LEAST_CHROMA_CHANGE = 0.2;
const MOST_FLASHES = 3;
/** Thresholds are met by values that rounding has left a hair below; it is less than light in 8 bits tells apart. */
const HAIR = 1e-4;

export type FlashKind = 'general' | 'red';
export const FLASH_KINDS: readonly FlashKind[] = ['general', 'red'];

/** The fewest flashes in a second that are more than the criterion allows. */
export const TOO_MANY_FLASHES = MOST_FLASHES + 1;

/** The worst second of a film: how many flashes, between which frames (inclusive), and over how much of the 10° field at most, in percent. */
export type Flashes = {
  readonly kind: FlashKind;
  readonly flashes: number;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly fieldPercent: number;
};

/** Whether so many flashes in one second are more than the criterion allows. */
export const areTooMany = ({ flashes }: Flashes): boolean => flashes >= TOO_MANY_FLASHES;

/** How often a cell turned, at which of its states first and last. */
export type Turns = { readonly turns: number; readonly first: number; readonly last: number };

/** Whether luminance rises from one state to another far enough for a turn; a fall is a rise backwards. */
export const isRise = (from: number, to: number): boolean => to - from >= LEAST_CHANGE - HAIR && from < DARKER_BELOW - HAIR;

/**
 * Turns of a cell's luminance, state after state; the first is the one before the period. Stops at `most` turns.
 * The earliest turn is always taken: a later one in its place could only leave less for those that follow.
 */
export function luminanceTurns(states: ArrayLike<number>, count: number, most: number): Turns {
  let lowest = states[0] as number;
  let highest = lowest;
  let direction = 0;
  let turns = 0;
  let first = -1;
  let last = -1;
  for (let state = 1; state < count && turns < most; state++) {
    const now = states[state] as number;
    const turned = direction !== 1 && isRise(lowest, now) ? 1 : direction !== -1 && isRise(now, highest) ? -1 : 0;
    if (turned === 0) {
      if (now < lowest) lowest = now;
      if (now > highest) highest = now;
      continue;
    }
    direction = turned;
    lowest = highest = now;
    turns++;
    last = state;
    if (first < 0) first = state;
  }
  return { turns, first, last };
}

/** Whether linear light is a saturated red. */
export const isSaturatedRed = (red: number, green: number, blue: number): boolean =>
  red > HAIR && red >= (SATURATED_RED - HAIR) * (red + green + blue);

type Chroma = { readonly u: number; readonly v: number };

/** u′, v′ of linear sRGB by CIE 1976 with the matrix of IEC 61966-2-1; black, which has none, counts as white's. */
export function chromaOf(red: number, green: number, blue: number): Chroma {
  const x = 0.4124 * red + 0.3576 * green + 0.1805 * blue;
  const y = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  const z = 0.0193 * red + 0.1192 * green + 0.9505 * blue;
  const sum = x + 15 * y + 3 * z;
  return sum < 1e-6 ? { u: 0.1978, v: 0.4683 } : { u: (4 * x) / sum, v: (9 * y) / sum };
}

/** Whether two states are far enough apart in colour for a turn. */
export const isFarApart = (a: Chroma, b: Chroma): boolean => Math.hypot(a.u - b.u, a.v - b.v) > LEAST_CHROMA_CHANGE;

/** Turns of a cell's colour to and from saturated red; as `luminanceTurns`. Two saturated reds are never far apart. */
export function redTurns(red: ArrayLike<number>, green: ArrayLike<number>, blue: ArrayLike<number>, count: number, most: number): Turns {
  const states = Array.from({ length: count }, (_, state) => {
    const [r, g, b] = [red[state] as number, green[state] as number, blue[state] as number];
    return { isRed: isSaturatedRed(r, g, b), chroma: chromaOf(r, g, b) };
  });
  let [since, turns, first, last] = [0, 0, -1, -1];
  let lastWasRed: boolean | null = null;
  for (let state = 1; state < count && turns < most; state++) {
    const now = states[state] as (typeof states)[number];
    if (now.isRed === lastWasRed) continue;
    const before = states.slice(since, state);
    if (!before.some((other) => other.isRed !== now.isRed && isFarApart(other.chroma, now.chroma))) continue;
    lastWasRed = now.isRed;
    since = state;
    turns++;
    last = state;
    if (first < 0) first = state;
  }
  return { turns, first, last };
}
