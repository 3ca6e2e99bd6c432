import { type Drawing, drawingById, type Level, type Project } from '@/core/document/model';
import { placedIn, type RenderRequest } from '@/core/render/renderPlan';
import { leaves } from '@/core/render/stacks';
import { placedRuns } from '@/core/sheet/runs';
import { drawingWords } from '@/core/words';

/** Drawings a level shows on frames `first` to `last` of its shot (both inclusive), each once. */
function drawingsShown(level: Level, first: number, last: number): readonly Drawing[] {
  if (level.kind === 'still') return level.drawings.slice(0, 1);
  const shown = placedRuns(level.exposures).filter((run) => run.startFrame <= last && run.endFrame > first);
  return [...new Set(shown.map((run) => run.drawing))].flatMap((id) => drawingById(level, id) ?? []);
}

/** Drawings without a picture that stand on frames that are handed over, as `shot level number`; each is handed over blank. */
export function undrawnIn(project: Project, { shotId, fromFrame, toFrame, withBackground }: RenderRequest): readonly string[] {
  const names = placedIn(project, shotId).flatMap(({ shot, fromFrame: shotFrom, startFrame, endFrame }) => {
    if (!shot) return [];
    // Frames of the shot: those asked for, of those the item shows, of those the shot has.
    const first = shotFrom + Math.max(0, fromFrame - startFrame);
    const last = Math.min(shotFrom + Math.min(toFrame, endFrame - 1) - startFrame, shot.frames - 1);
    if (last < first) return [];
    return shot.levels
      .filter((level) => leaves(level, withBackground))
      .flatMap((level) =>
        drawingsShown(level, first, last)
          .filter((drawing) => drawing.picture === null)
          .map((drawing) => `${shot.code} ${drawingWords(level.name, drawing.number)}`),
      );
  });
  return [...new Set(names)];
}
