import type { Finding, LevelRule } from '@/core/check/finding';
import type { Drawing } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { once } from '@/core/remembered';
import { exposuresOf, firstExposures } from '@/core/sheet/reading';
import { type PlacedRun, placedRuns } from '@/core/sheet/runs';
import { drawingWords } from '@/core/words';

/** Steps that show `first` wherever `second` shows, and delete `second`: one drawing instead of two. */
export function shareSteps(
  at: { readonly shotId: string; readonly levelId: string },
  level: Parameters<LevelRule>[1],
  first: Drawing,
  second: Drawing,
): readonly Step[] {
  const shown = exposuresOf(level, second.id).map(
    ({ startFrame, endFrame }): Step => ({
      type: 'replaceRuns',
      ...at,
      startFrame,
      removedFrames: endFrame - startFrame,
      runs: [{ drawing: first.id, frames: endFrame - startFrame }],
    }),
  );
  return [...shown, { type: 'deleteDrawing', ...at, drawingId: second.id }];
}

/** Which drawings are shown one after the other, both ways. */
function neighbours(runs: readonly PlacedRun[]): ReadonlySet<string> {
  const found = new Set<string>();
  for (const [index, { drawing }] of runs.entries()) {
    const next = runs[index + 1]?.drawing;
    if (drawing !== null && next) found.add(`${drawing} ${next}`).add(`${next} ${drawing}`);
  }
  return found;
}

/** The same picture under two numbers that are not shown one after the other: two drawings where one would do. */
export const sameApart: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind === 'still') return [];
  const shown = firstExposures(level.exposures);
  const touching = once(() => neighbours(placedRuns(level.exposures)));
  const byPicture = new Map<string, { readonly drawing: Drawing; readonly frame: number }>();
  return level.drawings.flatMap((drawing): Finding[] => {
    if (drawing.picture === null) return [];
    const frame = shown.get(drawing.id)?.startFrame;
    if (frame === undefined) return [];
    const first = byPicture.get(drawing.picture);
    if (!first) {
      byPicture.set(drawing.picture, { drawing, frame });
      return [];
    }
    if (touching().has(`${first.drawing.id} ${drawing.id}`)) return [];
    const at = { shotId: shot.id, levelId: level.id };
    const second = { drawing, frame };
    const [one, other] = first.frame <= frame ? [first, second] : [second, first];
    return [
      {
        id: `same-apart ${one.drawing.id} ${other.drawing.id}`,
        kind: 'same-apart',
        group: 'repeats',
        breaks: null,
        sentence: `${drawingWords(level.name, one.drawing.number)} and ${other.drawing.number} are one picture under two numbers, on frames ${one.frame + firstNumber} and ${other.frame + firstNumber}.`,
        place: { ...at, fromFrame: other.frame, toFrame: other.frame },
        fixes: [
          {
            way: 'share',
            words: `Show ${one.drawing.number} in both places and delete ${other.drawing.number}`,
            step: {
              type: 'together',
              words: `Share ${one.drawing.number} for ${other.drawing.number}`,
              steps: shareSteps(at, level, one.drawing, other.drawing),
            },
          },
        ],
      },
    ];
  });
};
