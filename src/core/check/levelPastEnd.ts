import type { LevelRule } from '@/core/check/finding';
import { framesOfRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/** A level whose exposures run past the end of its shot: those frames never reach the reel. */
export const levelPastEnd: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind === 'still') return [];
  const frames = framesOfRuns(level.exposures);
  const over = frames - shot.frames;
  if (over <= 0) return [];
  const at = { shotId: shot.id, levelId: level.id };
  return [
    {
      id: `past-end ${level.id}`,
      kind: 'past-end',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `${level.name} runs for ${plural(frames, 'frame')}, shot ${shot.code} has ${shot.frames}: ${plural(over, 'frame')} past the end never ${over === 1 ? 'reaches' : 'reach'} the reel.`,
      place: { ...at, fromFrame: shot.frames - 1, toFrame: shot.frames - 1 },
      fixes: [
        {
          way: 'lengthen',
          words: `Make the shot ${plural(frames, 'frame')} long`,
          step: { type: 'setShotLength', shotId: shot.id, frames },
        },
        {
          way: 'trim',
          words: `Trim ${level.name} to frame ${shot.frames - 1 + firstNumber}`,
          step: { type: 'replaceRuns', ...at, startFrame: shot.frames, removedFrames: over, runs: [] },
        },
      ],
    },
  ];
};
