import { endShotStep } from '@/core/check/endShot';
import type { Finding } from '@/core/check/finding';
import type { Shot } from '@/core/document/model';
import { framesOfRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/** Frames at the end of a shot on which no animated level shows anything: what is drawn is shorter than the shot. */
export function emptyTail(shot: Shot): readonly Finding[] {
  const animated = shot.levels.filter((level) => level.kind === 'animated');
  const longest = animated.reduce<{ frames: number; levelId: string } | null>((best, level) => {
    const frames = framesOfRuns(level.exposures);
    return frames > (best?.frames ?? 0) ? { frames, levelId: level.id } : best;
  }, null);
  if (!longest || longest.frames >= shot.frames) return [];
  const level = animated.find((candidate) => candidate.id === longest.levelId);
  const last = level?.exposures.at(-1);
  if (!level || !last) return [];
  const empty = shot.frames - longest.frames;
  const at = { shotId: shot.id, levelId: level.id };
  return [
    {
      id: `empty-tail ${shot.id}`,
      kind: 'empty-tail',
      group: 'counts',
      breaks: 'check-assemble',
      sentence: `The drawings of shot ${shot.code} fill ${plural(longest.frames, 'frame')}, the shot has ${shot.frames}: the last ${plural(empty, 'frame')} ${empty === 1 ? 'shows' : 'show'} no drawing.`,
      place: { ...at, fromFrame: longest.frames, toFrame: shot.frames - 1 },
      fixes: [
        {
          way: 'shorten',
          words: `Make the shot ${plural(longest.frames, 'frame')} long`,
          step: endShotStep(shot, longest.frames),
        },
        {
          way: 'hold',
          words: `Hold the last drawing of ${level.name} to the end`,
          step: { type: 'setLength', ...at, atFrame: longest.frames - 1, frames: last.frames + empty, following: 'push' },
        },
      ],
    },
  ];
}
