import type { Exposure } from '@/core/document/model';

/*
 * What can be done to exposures by themselves, as lists in and lists out. They may end in a
 * blank, unlike a level's whole column; putting it back on a level brings it into the column's one form.
 */

/** Every drawing held `step` frames, in the same order; blanks keep their length. */
export const onEvery = (exposures: readonly Exposure[], step: number): readonly Exposure[] =>
  exposures.map((run) => (run.drawing === null || run.frames === step ? run : { drawing: run.drawing, frames: step }));

/** One exposure put on a step with its time kept: a drawing that was there, or a new one to come after `after`. */
export type SteppedExposure = { readonly drawing: string | null; readonly newAfter: string | null; readonly frames: number };

/**
 * The exposures on `step` frames with their time kept. Each step shows what stood at its first frame; where the
 * drawing of the step before would stand on, a new in-between is planned. The last step may be cut short.
 */
export function onEveryKeepingTime(exposures: readonly Exposure[], step: number): readonly SteppedExposure[] {
  const stepped: SteppedExposure[] = [];
  let start = 0;
  let nextStep = 0;
  for (const run of exposures) {
    const end = start + run.frames;
    let isFirst = true;
    while (nextStep < end) {
      const isNew = run.drawing !== null && !isFirst;
      stepped.push({ drawing: isNew ? null : run.drawing, newAfter: isNew ? run.drawing : null, frames: step });
      isFirst = false;
      nextStep += step;
    }
    start = end;
  }
  const last = stepped.at(-1);
  if (last && nextStep > start) stepped[stepped.length - 1] = { ...last, frames: last.frames - (nextStep - start) };
  return stepped;
}

/**
 * The exposures round and round for `frames` frames, beginning with its exposure of index `offset`;
 * the last round is cut where the frames end.
 */
export function cycled(exposures: readonly Exposure[], frames: number, offset = 0): readonly Exposure[] {
  const result: Exposure[] = [];
  if (exposures.length === 0) return result;
  for (let left = frames, index = offset; left > 0; index++) {
    const run = exposures[index % exposures.length] as Exposure;
    const taken = Math.min(run.frames, left);
    result.push(taken === run.frames ? run : { drawing: run.drawing, frames: taken });
    left -= taken;
  }
  return result;
}

/** Ping-pong, each end once: `1 2 3 4` is `1 2 3 4 3 2`, so that going round doubles neither end. */
export const thereAndBack = (exposures: readonly Exposure[]): readonly Exposure[] => [...exposures, ...exposures.slice(1, -1).toReversed()];

/** The exposures from its end to its beginning, each drawing with its own length. */
export const reversed = (exposures: readonly Exposure[]): readonly Exposure[] => exposures.toReversed();

/** Each exposure followed by the one after next: `1 2 3 4 5 6` is `1 3 2 4 3 5 4 6`. Of fewer than three it is the exposures itself. */
export function staggered(exposures: readonly Exposure[]): readonly Exposure[] {
  if (exposures.length < 3) return exposures;
  return exposures.slice(0, -2).flatMap((run, index) => [run, exposures[index + 2] as Exposure]);
}
