import type { Shot } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { framesOfRuns } from '@/core/sheet/runs';

/** Ends a shot after so many frames, and every level that would run past it there, so that nothing is left that never reaches the reel. */
export function endShotStep(shot: Shot, frames: number): Step {
  const length: Step = { type: 'setShotLength', shotId: shot.id, frames };
  const trims = shot.levels.flatMap((level): Step[] => {
    const over = level.kind === 'still' ? 0 : framesOfRuns(level.exposures) - frames;
    if (over <= 0) return [];
    return [{ type: 'replaceRuns', shotId: shot.id, levelId: level.id, startFrame: frames, removedFrames: over, runs: [] }];
  });
  return trims.length === 0 ? length : { type: 'together', words: `End shot ${shot.code}`, steps: [...trims, length] };
}
