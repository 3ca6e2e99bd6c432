import type { Finding, LevelRule } from '@/core/check/finding';
import { occurrencesOf } from '@/core/check/occurrence';
import type { Exposure } from '@/core/document/model';
import { drawingById } from '@/core/document/model';
import { placedRuns } from '@/core/sheet/runs';

/** A single blank frame between two drawings of a level: it flickers, and is nearly always a slip. */
export const oneFrameGap: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind === 'still') return [];
  const findings: Finding[] = [];
  const runs = placedRuns(level.exposures);
  const occurrence = occurrencesOf(runs);
  runs.forEach((run, index) => {
    if (run.drawing !== null || run.endFrame - run.startFrame !== 1) return;
    const before = drawingById(level, runs[index - 1]?.drawing ?? null);
    const after = drawingById(level, runs[index + 1]?.drawing ?? null);
    if (!before || !after) return;
    const at = { shotId: shot.id, levelId: level.id };
    const fill = (runsIn: readonly Exposure[]) =>
      ({ type: 'replaceRuns', ...at, startFrame: run.startFrame, removedFrames: 1, runs: runsIn }) as const;
    findings.push({
      id: `gap ${level.id} ${before.id} ${after.id}${occurrence(index - 1)}`,
      kind: 'gap',
      group: 'slips',
      breaks: null,
      sentence: `${level.name} is blank on frame ${run.startFrame + firstNumber} alone, between ${before.number} and ${after.number}.`,
      place: { ...at, fromFrame: run.startFrame, toFrame: run.startFrame },
      fixes: [
        { way: 'hold', words: `Hold ${before.number} over it`, step: fill([{ drawing: before.id, frames: 1 }]) },
        { way: 'start', words: `Start ${after.number} a frame earlier`, step: fill([{ drawing: after.id, frames: 1 }]) },
      ],
    });
  });
  return findings;
};
