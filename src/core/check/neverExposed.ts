import type { LevelRule } from '@/core/check/finding';
import { deleteDrawing } from '@/core/edit/drawingEdits';
import { firstExposures } from '@/core/sheet/reading';

/** Drawings that no frame of the sheet shows: drawn or planned, but not in the count. */
export const neverExposed: LevelRule = (shot, level) => {
  if (level.kind !== 'animated') return [];
  const exposed = firstExposures(level.exposures);
  return level.drawings
    .filter((drawing) => !exposed.has(drawing.id))
    .map((drawing) => {
      const edit = deleteDrawing(shot, level, drawing);
      return {
        id: `never-exposed ${drawing.id}`,
        kind: 'never-exposed' as const,
        group: 'counts' as const,
        breaks: 'plan-draw' as const,
        sentence: `${level.name} has a drawing ${drawing.number} that the sheet of shot ${shot.code} never shows.`,
        place: { shotId: shot.id, levelId: level.id, fromFrame: 0, toFrame: 0 },
        fixes: [{ way: 'delete', words: edit.says, step: edit.step }],
      };
    });
};
