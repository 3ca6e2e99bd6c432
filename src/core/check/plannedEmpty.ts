import type { LevelRule } from '@/core/check/finding';
import { type Drawing, drawingsById, type Level } from '@/core/document/model';
import { firstExposures } from '@/core/sheet/reading';
import { plural } from '@/core/time/counts';
import { someOf } from '@/core/words';

const MOST_NAMED = 8;

type Shown = { readonly drawing: Drawing; readonly startFrame: number; readonly endFrame: number };

/** The planned drawings without a picture where they first show, in that order. */
function* undrawnShown(level: Level, shotFrames: number): Generator<Shown> {
  if (level.kind === 'still') {
    for (const drawing of level.drawings) if (drawing.picture === null) yield { drawing, startFrame: 0, endFrame: shotFrames };
    return;
  }
  const drawings = drawingsById(level);
  for (const [id, { startFrame, endFrame }] of firstExposures(level.exposures)) {
    const drawing = drawings.get(id);
    if (drawing?.picture === null) yield { drawing, startFrame, endFrame };
  }
}

/** Drawings the sheet shows that nobody has drawn yet; one finding a level, at the first of them. */
export const plannedEmpty: LevelRule = (shot, level) => {
  if (level.kind === 'guide' || level.drawings.every((drawing) => drawing.picture !== null)) return [];
  let first: Shown | null = null;
  let count = 0;
  const numbers: string[] = [];
  for (const shown of undrawnShown(level, shot.frames)) {
    first ??= shown;
    count++;
    numbers.push(shown.drawing.number);
  }
  if (!first) return [];
  return [
    {
      id: `planned-empty ${level.id}`,
      kind: 'planned-empty',
      group: 'undrawn',
      breaks: null,
      sentence: `${level.name} in shot ${shot.code} has ${plural(count, 'drawing')} planned and not drawn yet: ${someOf(numbers, MOST_NAMED)}.`,
      place: { shotId: shot.id, levelId: level.id, fromFrame: first.startFrame, toFrame: first.endFrame - 1 },
      fixes: [],
    },
  ];
};
