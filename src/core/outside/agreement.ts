import { type Alignment, align, alignStepped } from '@/core/outside/align';
import { type Fault, type FlatOfFrame, faultsOf } from '@/core/outside/faults';
import { COLOUR_READINGS, type ColourReading } from '@/core/outside/look';
import { type SharedPictures, sharedPictures } from '@/core/outside/samePictures';
import type { SeenFrames } from '@/core/outside/seenFrames';
import { isMultiple, type Stepped, steppedBy } from '@/core/outside/stepping';
import type { Rate } from '@/core/time/rate';

/**
 * How a file lies beside its plan. `alignment` is null where the two have so little to do with each other that frames can't
 * be laid beside each other; then `multiple` may say that each of the plan's frames comes so many times (below 1: one in so many).
 */
export type Beside = {
  readonly alignment: Alignment | null;
  readonly multiple: number | null;
  readonly faults: readonly Fault[];
  readonly stepped: Stepped | null;
  /** Frames of the plan that stand in the file at their own number, showing their picture. */
  readonly inPlace: number;
  /** Frames of the plan that show their picture, wherever they stand. */
  readonly found: number;
  /** How the file’s colours had to be read for its pictures to be found. */
  readonly reading: ColourReading;
};

/** Of what is aligned, at least this part must show the same picture for the files to have anything to do with each other. */
const LEAST_SAME_PART = 0.3;

export const NOTHING_BESIDE: Beside = {
  alignment: null,
  multiple: null,
  faults: [],
  stepped: null,
  inPlace: 0,
  found: 0,
  reading: 'as it is',
};

/** Lays a file beside its plan by shared ids of their pictures. */
export function layShared(shared: SharedPictures, flatOf: FlatOfFrame, planRate: Rate | null): Beside {
  const { plan, file } = shared;
  if (plan.length === 0 || file.length === 0) return NOTHING_BESIDE;
  const multiple = isMultiple(shared);
  if (multiple !== null) return { ...NOTHING_BESIDE, multiple, found: plan.length };
  const alignment = alignStepped(plan, file) ?? align(plan, file);
  if (!alignment) return NOTHING_BESIDE;
  let [inPlace, found] = [0, 0];
  for (let frame = 0; frame < plan.length; frame++) {
    found += alignment.isSame[frame] as number;
    if (alignment.isSame[frame] === 1 && alignment.fileOf[frame] === frame) inPlace++;
  }
  if (found < LEAST_SAME_PART * Math.min(plan.length, file.length)) return { ...NOTHING_BESIDE, found };
  const faults = faultsOf(shared, alignment, flatOf);
  return { ...NOTHING_BESIDE, alignment, faults, stepped: steppedBy(faults, plan.length, file.length, planRate), inPlace, found };
}

/** So much of the plan must be found for its colours to be taken as they are. */
const CLEARLY_FOUND_PART = 0.9;

/** Whether so much was found of what can be, `frames` at most, that nothing else need be tried. */
export const isClearlyFound = ({ found, multiple }: Beside, frames: number): boolean =>
  multiple !== null || found >= CLEARLY_FOUND_PART * frames;

/** Whether one way of laying a file beside its plan found more than another. */
export const isFoundMore = (one: Beside, other: Beside): boolean => one.multiple !== null || one.found > other.found;

/**
 * Lays a file beside its plan, by what their frames look like; `widthPx` is the width of the smaller. Where little is found as the colours
 * are, they are tried as if they had been reckoned in another way, and the way that finds most is told.
 */
export function layBeside(plan: SeenFrames, file: SeenFrames, planRate: Rate | null, widthPx: number): Beside {
  const flatOf = (frame: number) => file.flats.get(file.pictureOf[frame] as number) ?? null;
  const laid = (reading: ColourReading): Beside => ({
    ...layShared(sharedPictures(plan, file, { widthPx, reading }), flatOf, planRate),
    reading,
  });
  let best = laid('as it is');
  const frames = Math.min(plan.frames, file.frames);
  for (const reading of Object.keys(COLOUR_READINGS) as ColourReading[]) {
    if (isClearlyFound(best, frames)) break;
    if (reading === 'as it is') continue;
    const other = laid(reading);
    if (isFoundMore(other, best)) best = other;
  }
  return best;
}
