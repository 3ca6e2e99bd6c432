import type { ReelItem, Shot } from '@/core/document/model';
import type { PlacedItem } from '@/core/reel/reel';
import { rememberedUnder } from '@/core/remembered';
import { type ShotRun, shotRuns } from '@/core/render/shotRuns';
import { leaves } from '@/core/render/stacks';

type RunsOf = (placed: PlacedItem, withBackground: boolean) => readonly ShotRun[];

/** A change of one shot, or of the reel, leaves what the others show as it was. */
const runsUnder = rememberedUnder<Shot, boolean, readonly ShotRun[]>();

const runsOfShot = (shot: Shot, withBackground: boolean): readonly ShotRun[] =>
  runsUnder(shot, withBackground, () =>
    shotRuns(
      shot.levels.filter((level) => leaves(level, withBackground)),
      shot.frames,
    ),
  );

/** The runs of a shot from one of its frames on, for so many frames; past its end there is nothing but paper. */
function windowOf(shot: Shot, runs: readonly ShotRun[], fromFrame: number, frames: number): readonly ShotRun[] {
  if (fromFrame === 0 && frames === shot.frames) return runs;
  const shown = runs.flatMap((run): readonly ShotRun[] => {
    const start = Math.max(0, run.startFrame - fromFrame);
    const end = Math.min(frames, run.startFrame + run.frames - fromFrame);
    return end > start ? [{ startFrame: start, frames: end - start, layers: run.layers }] : [];
  });
  const last = shown.at(-1);
  const end = last ? last.startFrame + last.frames : 0;
  return end < frames ? [...shown, { startFrame: end, frames: frames - end, layers: [] }] : shown;
}

/** What each kind of item on the reel shows over its own frames. Its place there is its entry in `@/core/reel/reel`. */
const RUNS_OF: { readonly [Kind in ReelItem['kind']]: RunsOf } = {
  shot: ({ shot, fromFrame, startFrame, endFrame }, withBackground) =>
    shot ? windowOf(shot, runsOfShot(shot, withBackground), fromFrame, endFrame - startFrame) : [],
  gap: ({ startFrame, endFrame }) => [{ startFrame: 0, frames: endFrame - startFrame, layers: [] }],
};

/** The runs of an item over its own frames (from 0). Without the background still levels are left out. */
export const itemRuns: RunsOf = (placed, withBackground) => RUNS_OF[placed.item.kind](placed, withBackground);
