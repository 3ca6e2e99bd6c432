import type { Project, ReelItem, Shot } from '@/core/document/model';
import { isWhole, type PlacedItem } from '@/core/reel/reel';
import { rememberedUnder } from '@/core/remembered';
import { clipRuns } from '@/core/render/clipRuns';
import { type ShotRun, shotRuns } from '@/core/render/shotRuns';
import { leaves } from '@/core/render/stacks';

type RunsOf = (project: Project, placed: PlacedItem, withBackground: boolean) => readonly ShotRun[];

/** A change of one shot, or of the reel, leaves what the others show as it was. */
const runsUnder = rememberedUnder<Shot, boolean, readonly ShotRun[]>();

const runsOfShot = (shot: Shot, withBackground: boolean): readonly ShotRun[] =>
  runsUnder(shot, withBackground, () =>
    shotRuns(
      shot.levels.filter((level) => leaves(level, withBackground)),
      shot.frames,
    ),
  );

/** What an item shows of the runs of its source; past their end there is nothing but paper. */
function windowOf(placed: PlacedItem, runs: readonly ShotRun[]): readonly ShotRun[] {
  const { fromFrame, startFrame, endFrame } = placed;
  const frames = endFrame - startFrame;
  if (isWhole(placed)) return runs;
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
  shot: (_project, placed, withBackground) => (placed.shot ? windowOf(placed, runsOfShot(placed.shot, withBackground)) : []),
  clip: ({ rate }, placed) => (placed.item.kind === 'clip' ? windowOf(placed, clipRuns(placed.item.clip, placed.item.way, rate)) : []),
  gap: (_project, { startFrame, endFrame }) => [{ startFrame: 0, frames: endFrame - startFrame, layers: [] }],
};

/** The runs of an item over its own frames (from 0). Without the background still levels are left out. */
export const itemRuns: RunsOf = (project, placed, withBackground) => RUNS_OF[placed.item.kind](project, placed, withBackground);
