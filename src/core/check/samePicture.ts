import type { Finding, LevelRule } from '@/core/check/finding';
import { occurrencesOf } from '@/core/check/occurrence';
import { type Drawing, drawingsById } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { once } from '@/core/remembered';
import { placedRuns } from '@/core/sheet/runs';
import { drawingWords } from '@/core/words';

/** The same picture under two drawing numbers in a row: it is held for longer than the sheet says, though nobody asked for a hold. */
export const samePicture: LevelRule = (shot, level, { firstNumber }) => {
  const findings: Finding[] = [];
  const runs = placedRuns(level.exposures);
  const occurrence = occurrencesOf(runs);
  const times = once(() => {
    const counts = new Map<string | null, number>();
    for (const { drawing } of runs) counts.set(drawing, (counts.get(drawing) ?? 0) + 1);
    return counts;
  });
  const drawings = drawingsById(level);
  let second: Drawing | undefined;
  runs.forEach((run, index) => {
    const before = runs[index - 1];
    const first = second;
    second = drawings.get(run.drawing);
    if (!before || !first?.picture || !second || first.picture !== second.picture) return;
    const at = { shotId: shot.id, levelId: level.id };
    const frames = run.endFrame - run.startFrame;
    const hold: Step = {
      type: 'replaceRuns',
      ...at,
      startFrame: run.startFrame,
      removedFrames: frames,
      runs: [{ drawing: first.id, frames }],
    };
    const onlyHere = times().get(second.id) === 1;
    const total = run.endFrame - before.startFrame;
    findings.push({
      id: `same-picture ${first.id} ${second.id}${occurrence(index - 1)}`,
      kind: 'same-picture',
      group: 'repeats',
      breaks: 'draw-check',
      sentence: `${drawingWords(level.name, first.number)} and ${second.number} are one picture: it is held for ${total} frames from frame ${before.startFrame + firstNumber}, and the sheet counts it as two drawings.`,
      place: { ...at, fromFrame: run.startFrame, toFrame: run.endFrame - 1 },
      fixes: [
        onlyHere
          ? {
              way: 'hold',
              words: `Hold ${first.number} for ${total} frames and delete ${second.number}`,
              step: {
                type: 'together',
                words: `Hold ${first.number} for ${second.number}`,
                steps: [hold, { type: 'deleteDrawing', ...at, drawingId: second.id }],
              },
            }
          : { way: 'hold', words: `Hold ${first.number} for ${total} frames here`, step: hold },
      ],
    });
  });
  return findings;
};
