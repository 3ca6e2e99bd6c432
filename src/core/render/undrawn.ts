import { drawingById, type Project } from '@/core/document/model';
import { reelOf } from '@/core/reel/reel';
import type { RenderRequest } from '@/core/render/renderPlan';
import { leaves } from '@/core/render/stacks';
import { placedRuns } from '@/core/sheet/runs';

/** Drawings without a picture that stand on frames that are handed over, as `shot level number`; each is handed over blank. */
export function undrawnIn(project: Project, { shotId, fromFrame, toFrame, withBackground }: RenderRequest): readonly string[] {
  const placed = reelOf(project).filter(({ shot }) => shotId === null || shot.id === shotId);
  const start = placed[0]?.startFrame ?? 0;
  return placed.flatMap(({ shot, startFrame }) => {
    const [first, last] = [fromFrame - (startFrame - start), toFrame - (startFrame - start)];
    if (last < 0 || first >= shot.frames) return [];
    return shot.levels
      .filter((level) => leaves(level, withBackground))
      .flatMap((level) => {
        const shown =
          level.kind === 'still'
            ? level.drawings.slice(0, 1)
            : [
                ...new Set(
                  placedRuns(level.exposures)
                    .filter((run) => run.startFrame <= Math.min(last, shot.frames - 1) && run.endFrame > first)
                    .map((run) => run.drawing),
                ),
              ].flatMap((id) => drawingById(level, id) ?? []);
        return shown.filter((drawing) => drawing.picture === null).map((drawing) => `${shot.code} ${level.name} ${drawing.number}`);
      });
  });
}
