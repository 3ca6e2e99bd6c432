import type { LevelRule } from '@/core/check/finding';
import { type Drawing, drawingsById } from '@/core/document/model';
import { renumberInOrder } from '@/core/edit/numberEdits';
import { compareParts, type NumberParts, numberParts } from '@/core/sheet/numbers';
import { firstExposures } from '@/core/sheet/reading';
import { someOf } from '@/core/words';

const MOST_NAMED = 4;

/** Drawings that first show in another order than their numbers say; one finding a level. Showing a drawing again is none. */
export const numberOrder: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind !== 'animated') return [];
  const faults: { drawing: Drawing; before: Drawing; frame: number }[] = [];
  let last: { readonly drawing: Drawing; readonly parts: NumberParts } | undefined;
  const drawings = drawingsById(level);
  for (const run of firstExposures(level.exposures).values()) {
    const drawing = drawings.get(run.drawing);
    if (!drawing) continue;
    const parts = numberParts(drawing.number);
    if (last && compareParts(parts, last.parts) < 0) faults.push({ drawing, before: last.drawing, frame: run.startFrame });
    last = { drawing, parts };
  }
  const first = faults[0];
  if (!first) return [];
  const edit = renumberInOrder({ shot, firstNumber, following: 'push', newId: () => '' }, level);
  const named = faults.map(({ drawing, before }) => `${drawing.number} after ${before.number}`);
  return [
    {
      id: `order ${level.id}`,
      kind: 'order',
      group: 'slips',
      breaks: null,
      sentence: `${level.name} in shot ${shot.code} is numbered out of order: ${someOf(named, MOST_NAMED)}, from frame ${first.frame + firstNumber}.`,
      place: { shotId: shot.id, levelId: level.id, fromFrame: first.frame, toFrame: first.frame },
      fixes: edit.ok ? [{ way: 'renumber', words: edit.value.says, step: edit.value.step }] : [],
    },
  ];
};
