import type { LevelRule } from '@/core/check/finding';
import { drawingById } from '@/core/document/model';
import { framesOfRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/** An animated level whose drawings end before its shot while another level goes on: a prop that vanishes, or an exit that is meant. */
export const shortLevel: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind !== 'animated') return [];
  const frames = framesOfRuns(level.exposures);
  const longest = Math.max(...shot.levels.map((other) => (other.kind === 'animated' ? framesOfRuns(other.exposures) : 0)));
  const last = level.exposures.at(-1);
  const drawing = drawingById(level, last?.drawing ?? null);
  if (!last || !drawing || frames >= shot.frames || longest <= frames) return [];
  const missing = shot.frames - frames;
  const at = { shotId: shot.id, levelId: level.id };
  return [
    {
      id: `short ${level.id}`,
      kind: 'short-level',
      group: 'counts',
      breaks: null,
      sentence: `${level.name} ends on frame ${frames - 1 + firstNumber}: it runs for ${plural(frames, 'frame')}, shot ${shot.code} has ${shot.frames}.`,
      place: { ...at, fromFrame: frames, toFrame: shot.frames - 1 },
      fixes: [
        {
          way: 'hold',
          words: `Hold ${drawing.number} ${plural(missing, 'frame')} more, to the end`,
          step: { type: 'setLength', ...at, atFrame: frames - 1, frames: last.frames + missing, following: 'push' },
        },
      ],
    },
  ];
};
