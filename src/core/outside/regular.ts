/*
 * Repeats that come regularly, in a film whose coding hides some of them or makes some up: for each length of period the
 * frames are laid below each other, and each place of the period is a repeat when most of its frames are.
 */

/** Repeats that come in a period: which of its frames repeat the one before, the first place being that of the film's first frame. */
export type RegularRepeats = { readonly period: number; readonly repeats: readonly boolean[] };

const LONGEST_PERIOD = 60;
/** So many frames may be other than the period has them. */
const MOST_OTHER_PART = 0.02;
/** A film must be so many times as long as the period. */
const LEAST_ROUNDS = 3;

/** The shortest period in which a film's repeats come; null where they come in none, or none is there. The first frame repeats nothing. */
export function regularRepeats(isRepeat: ArrayLike<boolean | number>): RegularRepeats | null {
  const frames = isRepeat.length;
  for (let period = 1; period <= Math.min(LONGEST_PERIOD, Math.floor(frames / LEAST_ROUNDS)); period++) {
    const [count, all] = [new Float64Array(period), new Float64Array(period)];
    for (let frame = 1; frame < frames; frame++) {
      const place = frame % period;
      all[place] = (all[place] as number) + 1;
      if (isRepeat[frame]) count[place] = (count[place] as number) + 1;
    }
    let other = 0;
    const repeats = Array.from({ length: period }, (_, place) => {
      const [own, of] = [count[place] as number, all[place] as number];
      other += Math.min(own, of - own);
      return own * 2 > of;
    });
    if (other <= MOST_OTHER_PART * (frames - 1) && repeats.some(Boolean) && repeats.some((each) => !each)) return { period, repeats };
  }
  return null;
}

/** How long pictures are held within a period, beginning with the first that begins in it. */
export function heldInPeriod({ period, repeats }: RegularRepeats): readonly number[] {
  const first = repeats.indexOf(false);
  const lengths: number[] = [];
  for (let step = 0; step < period; step++) {
    if (repeats[(first + step) % period]) lengths[lengths.length - 1] = (lengths.at(-1) as number) + 1;
    else lengths.push(1);
  }
  return lengths;
}
