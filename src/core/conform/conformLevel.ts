import { conformedFrame, driftMilliseconds } from '@/core/conform/rounding';
import { type DrawingId, drawingById, type Exposure, type Level } from '@/core/document/model';
import { rememberedUnder } from '@/core/remembered';
import { placedRuns, tidyRuns } from '@/core/sheet/runs';
import type { Rate } from '@/core/time/rate';

/** What to do with a drawing that would get no frame at the new rate: keep it one frame, or leave it unexposed. Refusing is the third way. */
export type VanishingRule = 'refuse' | 'keep' | 'leaveOut';

/** One exposure before and after: frames from 0 within its shot; `newFrames` of 0 when it is left out. */
export type ConformedExposure = {
  readonly drawing: DrawingId;
  readonly number: string;
  readonly oldStart: number;
  readonly oldFrames: number;
  readonly newStart: number;
  readonly newFrames: number;
  readonly driftMilliseconds: number;
};

/** A level brought to another rate: its new column, what became of each exposure, and the numbers of those that got no frame of their own. */
export type ConformedLevel = {
  readonly level: Level;
  readonly exposures: readonly Exposure[];
  readonly table: readonly ConformedExposure[];
  readonly vanishing: readonly string[];
};

/**
 * Brings a level's exposures to another rate with each drawing's time kept. `reelStart` is the frame the
 * shot starts on at `from`, `newStart` the one it starts on at `to`: boundaries are rounded where they stand on the
 * reel, so that nothing drifts over a whole film either. A shot that starts later than its time, since those before
 * it are a frame each at least, begins with what is there then. With `keep`, a drawing that would vanish gets one frame and those after it
 * begin a frame later until there is room again.
 */
export function conformLevel(
  level: Level,
  from: Rate,
  to: Rate,
  vanishing: VanishingRule,
  reelStart = 0,
  newStart = conformedFrame(reelStart, from, to),
): ConformedLevel {
  const key = `${from.num}/${from.den} ${to.num}/${to.den} ${vanishing} ${reelStart} ${newStart}`;
  return conformedUnder(level, key, () => workOut(level, from, to, vanishing, reelStart, newStart));
}

/** While one level is changed, the others of a long film are as they were. */
const conformedUnder = rememberedUnder<Level, string, ConformedLevel>();

function workOut(level: Level, from: Rate, to: Rate, vanishing: VanishingRule, reelStart: number, shotStart: number): ConformedLevel {
  const boundary = (frame: number) => Math.max(0, conformedFrame(reelStart + frame, from, to) - shotStart);
  const runs: Exposure[] = [];
  const table: ConformedExposure[] = [];
  const vanished: string[] = [];
  let end = 0;
  for (const run of placedRuns(level.exposures)) {
    const meantEnd = boundary(run.endFrame);
    const drawing = drawingById(level, run.drawing);
    const newStart = drawing && vanishing === 'keep' ? Math.max(end, boundary(run.startFrame)) : boundary(run.startFrame);
    const own = boundary(run.endFrame) - boundary(run.startFrame);
    if (drawing && own === 0) vanished.push(drawing.number);
    const newEnd = drawing && vanishing === 'keep' ? Math.max(newStart + 1, meantEnd) : Math.max(meantEnd, end);
    const newFrames = newEnd - Math.max(newStart, end);
    if (newFrames > 0) runs.push({ drawing: run.drawing, frames: newFrames });
    end = Math.max(end, newEnd);
    if (drawing) {
      table.push({
        drawing: drawing.id,
        number: drawing.number,
        oldStart: run.startFrame,
        oldFrames: run.endFrame - run.startFrame,
        newStart,
        newFrames,
        driftMilliseconds: driftMilliseconds(reelStart + run.startFrame, from, shotStart + newStart, to),
      });
    }
  }
  return { level, exposures: tidyRuns(runs), table, vanishing: vanished };
}
