import type { LevelRule } from '@/core/check/finding';
import { firstExposures } from '@/core/sheet/reading';
import { plural } from '@/core/time/counts';

const MOST_NAMED = 8;

/** Drawings the sheet shows that nobody has drawn yet; one finding a level, at the first of them. */
export const plannedEmpty: LevelRule = (shot, level) => {
  if (level.kind === 'guide') return [];
  const undrawn = level.drawings.filter((drawing) => drawing.picture === null);
  if (undrawn.length === 0) return [];
  const firstRun = firstExposures(level.exposures);
  const empty = undrawn
    .flatMap((drawing) => {
      if (level.kind === 'still') return [{ drawing, startFrame: 0, endFrame: shot.frames }];
      const first = firstRun.get(drawing.id);
      return first ? [{ drawing, startFrame: first.startFrame, endFrame: first.endFrame }] : [];
    })
    .sort((a, b) => a.startFrame - b.startFrame);
  const first = empty[0];
  if (!first) return [];
  const named = empty
    .slice(0, MOST_NAMED)
    .map((entry) => entry.drawing.number)
    .join(', ');
  const more = empty.length > MOST_NAMED ? ` and ${empty.length - MOST_NAMED} more` : '';
  return [
    {
      id: `planned-empty ${level.id}`,
      kind: 'planned-empty',
      group: 'undrawn',
      breaks: null,
      sentence: `${level.name} in shot ${shot.code} has ${plural(empty.length, 'drawing')} planned and not drawn yet: ${named}${more}.`,
      place: { shotId: shot.id, levelId: level.id, fromFrame: first.startFrame, toFrame: first.endFrame - 1 },
      fixes: [],
    },
  ];
};
