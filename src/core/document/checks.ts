import { done, type Outcome, refused } from '@/core/outcome';

/** A finding somebody looked at and wants as it is; `finding` is its id, `note` says why. */
export type KeptFinding = { readonly finding: string; readonly note: string };

/** Within which values of red, green and blue a place takes colours, both ends inclusive, of 255. */
export type ColourRange = { readonly from: number; readonly to: number };

/** What the checks of a project are to look for. */
export type Checks = {
  /** Where the film is meant to go; null when that is not settled. See `@/core/check/destinations`. */
  readonly destination: string | null;
  /** How long everything may stand still before it is told, in frames; 0 never tells. */
  readonly stillFrames: number;
  /** Two pictures are nearly one when no more than so many thousandths of what is drawn differ; 0 looks for exact repeats alone. */
  readonly nearPerMille: number;
  readonly kept: readonly KeptFinding[];
};

/** What a new project looks for. */
export const FIRST_CHECKS: Checks = { destination: null, stillFrames: 72, nearPerMille: 10, kept: [] };

export const MOST_KEPT = 5000;
export const LONGEST_NOTE = 400;
export const MOST_STILL_FRAMES = 100_000;
export const MOST_NEAR_PER_MILLE = 200;

/** What can be said about the checks apart from what is kept. */
export type ChecksChange = Partial<Omit<Checks, 'kept'>>;

const wholeWithin = (value: number, most: number) => Number.isInteger(value) && value >= 0 && value <= most;

/** Refuses a range that isn't one of 8-bit values. */
export const checkColourRange = ({ from, to }: ColourRange): Outcome<ColourRange> =>
  wholeWithin(to, 255) && wholeWithin(from, to)
    ? done({ from, to })
    : refused(`Colours can't be held within ${from}–${to}: use whole numbers from 0 to 255, the lower first.`);

/** Refuses limits that are out of range. */
export function checkChecks({ stillFrames, nearPerMille }: Checks): Outcome<true> {
  if (!wholeWithin(stillFrames, MOST_STILL_FRAMES))
    return refused(`A limit of ${stillFrames} still frames is not possible: use 0 to ${MOST_STILL_FRAMES}.`);
  if (!wholeWithin(nearPerMille, MOST_NEAR_PER_MILLE))
    return refused(`Pictures can't be held to differ in ${nearPerMille} thousandths: use 0 to ${MOST_NEAR_PER_MILLE}.`);
  return done(true);
}
