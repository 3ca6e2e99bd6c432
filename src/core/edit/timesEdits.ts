import type { Level } from '@/core/document/model';
import { putRuns } from '@/core/edit/blockEdits';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { tellingEdit } from '@/core/edit/telling';
import { type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, sliceRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/**
 * The exposures of a level from one frame to another (inclusive, from 0), each held for so many frames, in their order. Where they
 * go to the shot's end, its length follows them. Refused where there are not as many of them as lengths.
 */
export function setEachLength(
  context: EditContext,
  level: Level,
  fromFrame: number,
  toFrame: number,
  lengths: readonly number[],
): Outcome<Edit> {
  const before = sliceRuns(level.exposures, fromFrame, toFrame + 1);
  if (before.length !== lengths.length)
    return refused(
      `${level.name} has ${plural(before.length, 'exposure')} on these frames, and ${plural(lengths.length, 'time')} were given.`,
    );
  const held = before.map((run, index) => ({ ...run, frames: lengths[index] as number }));
  const step = putRuns(context, level, fromFrame, framesOfRuns(before), held);
  if (!step) return refused('The exposures have these lengths already.');
  const difference = framesOfRuns(held) - framesOfRuns(before);
  const { shot } = context;
  const length: readonly Step[] =
    toFrame === shot.frames - 1 && difference !== 0 ? [{ type: 'setShotLength', shotId: shot.id, frames: shot.frames + difference }] : [];
  const words = `Times of ${plural(lengths.length, 'exposure')}`;
  return tellingEdit(context, [step, ...length], words, words, [
    { levelId: level.id, endFrame: fromFrame + framesOfRuns(before), difference },
  ]);
}
