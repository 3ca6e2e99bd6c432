import type { ReelItem } from '@/core/document/model';
import type { ReelShot } from '@/core/reel/reel';
import { type ShotRun, shotRuns } from '@/core/render/shotRuns';
import { leaves } from '@/core/render/stacks';

type RunsOf = (placed: ReelShot, withBackground: boolean) => readonly ShotRun[];

/** What each kind of item on the reel shows over its own frames. Its place there is its entry in `@/core/reel/reel`. */
const RUNS_OF: { readonly [Kind in ReelItem['kind']]: RunsOf } = {
  shot: ({ shot }, withBackground) =>
    shotRuns(
      shot.levels.filter((level) => leaves(level, withBackground)),
      shot.frames,
    ),
};

/** The runs of an item over its own frames (from 0). Without the background still levels are left out. */
export const itemRuns: RunsOf = (placed, withBackground) => RUNS_OF[placed.item.kind](placed, withBackground);
