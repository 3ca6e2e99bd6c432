import type { Finding, LevelRule } from '@/core/check/finding';
import { drawingById } from '@/core/sheet/document';
import { placedRuns } from '@/core/sheet/runs';

const STRETCH = 2;

/** A drawing on a one with drawings on twos on both sides of it, two deep: where all around is on twos, it is a slip. */
export const strayOne: LevelRule = (shot, level, firstNumber) => {
  if (level.kind !== 'animated') return [];
  const findings: Finding[] = [];
  const runs = placedRuns(level.exposures);
  const onTwos = (index: number) => {
    const run = runs[index];
    return run !== undefined && run.drawing !== null && run.endFrame - run.startFrame === 2;
  };
  runs.forEach((run, index) => {
    const drawing = drawingById(level, run.drawing);
    if (!drawing || run.endFrame - run.startFrame !== 1) return;
    for (let away = 1; away <= STRETCH; away++) if (!onTwos(index - away) || !onTwos(index + away)) return;
    const at = { shotId: shot.id, levelId: level.id };
    findings.push({
      id: `stray-one ${level.id} ${run.startFrame}`,
      group: 'slips',
      breaks: null,
      sentence: `${level.name} ${drawing.number} stands one frame, frame ${run.startFrame + firstNumber}, among drawings on twos.`,
      place: { ...at, fromFrame: run.startFrame, toFrame: run.startFrame },
      mends: [
        {
          words: `Put ${drawing.number} on twos, pushing what follows`,
          step: { type: 'setLength', ...at, atFrame: run.startFrame, frames: 2, following: 'push' },
        },
      ],
    });
  });
  return findings;
};
