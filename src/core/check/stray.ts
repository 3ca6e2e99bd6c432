import type { Finding, LevelRule } from '@/core/check/finding';
import { occurrencesOf } from '@/core/check/occurrence';
import { patternWords, slipAt } from '@/core/check/pattern';
import { drawingById } from '@/core/document/model';
import { placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { drawingWords } from '@/core/words';

/** A drawing that stands shorter than the pattern of lengths around it has it: a one among twos, a two among threes. */
export const stray: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind !== 'animated') return [];
  const runs = placedRuns(level.exposures);
  const occurrence = occurrencesOf(runs);
  const lengths = runs.map((run) => (run.drawing === null ? null : run.endFrame - run.startFrame));
  return runs.flatMap((run, index): Finding[] => {
    const slip = slipAt(lengths, index);
    const drawing = slip && drawingById(level, run.drawing);
    if (!drawing) return [];
    const frames = run.endFrame - run.startFrame;
    const at = { shotId: shot.id, levelId: level.id };
    const ahead = runs[index + 1];
    const missing = slip.expected - frames;
    return [
      {
        id: `stray ${level.id} ${drawing.id}${occurrence(index)}`,
        kind: 'stray',
        group: 'slips',
        breaks: null,
        sentence: `${drawingWords(level.name, drawing.number)} is held for ${frames === 1 ? 'one frame' : plural(frames, 'frame')}, from frame ${run.startFrame + firstNumber}, among drawings ${patternWords(slip.pattern)}.`,
        place: { ...at, fromFrame: run.startFrame, toFrame: run.endFrame - 1 },
        fixes: [
          {
            way: 'push',
            words: `Hold ${drawing.number} for ${plural(slip.expected, 'frame')}, pushing what follows by ${missing}`,
            step: { type: 'setLength', ...at, atFrame: run.startFrame, frames: slip.expected, following: 'push' },
          },
          // What is taken from the next leaves it as long as the pattern has it, or there would be another slip.
          ...(ahead &&
          (ahead.drawing === null
            ? ahead.endFrame - ahead.startFrame > missing
            : ahead.endFrame - ahead.startFrame - missing >= slip.expected)
            ? [
                {
                  way: 'overwrite',
                  words: `Hold ${drawing.number} for ${plural(slip.expected, 'frame')}, taking ${missing} from ${drawingById(level, ahead.drawing)?.number ?? 'the blank'}`,
                  step: { type: 'setLength', ...at, atFrame: run.startFrame, frames: slip.expected, following: 'overwrite' } as const,
                },
              ]
            : []),
        ],
      },
    ];
  });
};
