import type { Finding, LevelRule } from '@/core/check/finding';
import type { Drawing } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { exposuresOf } from '@/core/sheet/reading';
import { placedRuns } from '@/core/sheet/runs';

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

/** The same picture under two numbers that are not shown one after the other: two drawings where one would do. */
export const sameApart: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind === 'still') return [];
  const firstShown = new Map<string, number>();
  const touching = new Set<string>();
  const runs = placedRuns(level.exposures);
  runs.forEach((run, index) => {
    if (run.drawing === null) return;
    if (!firstShown.has(run.drawing)) firstShown.set(run.drawing, run.startFrame);
    const next = runs[index + 1]?.drawing;
    if (next) touching.add(`${run.drawing} ${next}`).add(`${next} ${run.drawing}`);
  });
  const byPicture = new Map<string, Drawing>();
  return level.drawings.flatMap((second): Finding[] => {
    const startFrame = firstShown.get(second.id);
    if (second.picture === null || startFrame === undefined) return [];
    const first = byPicture.get(second.picture);
    if (!first) {
      byPicture.set(second.picture, second);
      return [];
    }
    if (touching.has(`${first.id} ${second.id}`)) return [];
    const at = { shotId: shot.id, levelId: level.id };
    const [one, other] = (firstShown.get(first.id) as number) <= startFrame ? [first, second] : [second, first];
    const frame = firstShown.get(other.id) as number;
    return [
      {
        id: `same-apart ${one.id} ${other.id}`,
        kind: 'same-apart',
        group: 'repeats',
        breaks: null,
        sentence: `${level.name} ${one.number} and ${other.number} are one picture under two numbers, on frames ${(firstShown.get(one.id) as number) + firstNumber} and ${frame + firstNumber}.`,
        place: { ...at, fromFrame: frame, toFrame: frame },
        fixes: [
          {
            way: 'share',
            words: `Show ${one.number} in both places and delete ${other.number}`,
            step: { type: 'together', words: `Share ${one.number} for ${other.number}`, steps: shareSteps(at, level, one, other) },
          },
        ],
      },
    ];
  });
};
