import { align } from '@/core/outside/align';
import type { Fault } from '@/core/outside/faults';
import type { SharedPictures } from '@/core/outside/samePictures';
import { KNOWN_RATES, type Rate, rateName } from '@/core/time/rate';

/*
 * Frames that are shown twice or left out at even distances are no accident: a film was stepped from one rate to another
 * (core/conform, evenStepping: frame k shows floor(k · from / to)). From 24 to 30 every fifth frame of the file is a repeat;
 * from 30 to 24 every fifth of the plan is missing; from 24 to 25 one in twenty-five is a repeat.
 */

/** A file stepped evenly: by how much longer or shorter it came out, and how often a frame was shown again, or left out. */
export type Stepped = {
  readonly kind: 'repeats' | 'skips';
  /** One frame in so many of the longer of the two. */
  readonly every: number;
  readonly times: number;
  /** Rates people know whose proportion it is: from and to; null where none has it. */
  readonly rates: { readonly from: Rate; readonly to: Rate } | null;
};

/** The fewest faults that make a pattern. */
const LEAST_TIMES = 3;

/** Known rates in the proportion of the file's frames to the plan's: the nearest; the plan's own rate first. */
function ratesIn(part: number, planRate: Rate | null): Stepped['rates'] {
  const froms = planRate ? [planRate] : KNOWN_RATES.map(({ rate }) => rate);
  const apart = (from: Rate, to: Rate) => Math.abs(((to.num / to.den) * from.den) / from.num / part - 1);
  const pairs = froms.flatMap((from) => KNOWN_RATES.map(({ rate }) => ({ from, to: rate })));
  const nearest = pairs.reduce<Stepped['rates']>(
    (best, pair) => (best && apart(best.from, best.to) <= apart(pair.from, pair.to) ? best : pair),
    null,
  );
  return nearest && apart(nearest.from, nearest.to) < SAME_PROPORTION ? nearest : null;
}

/** Proportions of rates are the same within this part. */
const SAME_PROPORTION = 0.002;

const isEven = (places: readonly number[]): number | null => {
  const steps = places.slice(1).map((place, index) => place - (places[index] as number));
  const least = Math.min(...steps);
  // Where a repeat falls into a hold, it is found at the hold's end, a frame or two later.
  const mean = ((places.at(-1) as number) - (places[0] as number)) / steps.length;
  return steps.every((step) => Math.abs(step - mean) <= 2) && least >= 2 ? Math.round(mean) : null;
};

/** Whether all faults of a file come of even stepping. */
export function steppedBy(faults: readonly Fault[], planFrames: number, fileFrames: number, planRate: Rate | null): Stepped | null {
  const [first] = faults;
  if (!first || faults.length < LEAST_TIMES || (first.kind !== 'twice' && first.kind !== 'missing')) return null;
  if (faults.some(({ kind, frames }) => kind !== first.kind || frames > 1)) return null;
  const every = isEven(faults.map(({ fileFrame, planFrame }) => (first.kind === 'twice' ? fileFrame : planFrame)));
  if (every === null) return null;
  // Cut off at both ends, the pattern is within one frame of the proportion.
  const longer = first.kind === 'twice' ? fileFrames : planFrames;
  if (Math.abs(longer / every - faults.length) > 1.5) return null;
  const part = first.kind === 'twice' ? every / (every - 1) : (every - 1) / every;
  return { kind: first.kind === 'twice' ? 'repeats' : 'skips', every, times: faults.length, rates: ratesIn(part, planRate) };
}

/** How a file of another number of frames would be if each frame stood for the plan's at its place by proportion. */
function byProportion({ plan, file }: SharedPictures): number {
  let same = 0;
  for (let frame = 0; frame < file.length; frame++) {
    const planFrame = Math.floor((frame * plan.length) / file.length);
    if (plan[planFrame] === file[frame]) same++;
  }
  return same / Math.max(1, file.length);
}

/** A film of one frame is not another one at a hundredth of its rate. */
const MOST_TIMES = 10;

/** How many of a file's frames must fit for it to be the plan in proportion. */
const MOST_PART = 0.9;

/** Whether a file is its plan with every frame shown n times, or one in n: more faults than an alignment seeks, and one sentence. */
export function isMultiple(shared: SharedPictures): number | null {
  const { plan, file } = shared;
  const times = file.length / Math.max(1, plan.length);
  const whole = times >= 1 ? times : 1 / times;
  if (whole < 1.9 || whole > MOST_TIMES || Math.abs(whole - Math.round(whole)) > 0.01) return null;
  if (byProportion(shared) < MOST_PART) return null;
  // A film on twos can be its own half: what an alignment explains with next to nothing is no multiple.
  const few = align(plan, file, 2);
  return few ? null : times;
}

/** `24 stepped to 30`, as far as rates are known. */
export const steppedWords = ({ rates }: Stepped): string =>
  rates ? `${rateName(rates.from)} stepped evenly to ${rateName(rates.to)}` : 'stepped evenly to another rate';
