import { endShotStep } from '@/core/check/endShot';
import type { CheckContext, Finding } from '@/core/check/finding';
import type { Project, Shot } from '@/core/document/model';
import { reelOf } from '@/core/reel/reel';
import { layersAt } from '@/core/render/shotRuns';
import { leavingLevels, stackKey } from '@/core/render/stacks';
import { placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

const keyAt = (shot: Shot, frame: number) => stackKey(layersAt(leavingLevels(shot), frame));

/** How many frames at an end of a shot show the picture that stands there. */
function standingFrames(shot: Shot, end: 'first' | 'last'): number {
  const key = keyAt(shot, end === 'first' ? 0 : shot.frames - 1);
  const starts = new Set(shot.levels.flatMap((level) => placedRuns(level.exposures).flatMap((run) => [run.startFrame, run.endFrame])));
  const inner = [...starts].filter((frame) => frame > 0 && frame < shot.frames).sort((a, b) => a - b);
  if (end === 'first') return inner.find((frame) => keyAt(shot, frame) !== key) ?? shot.frames;
  const change = inner.findLast((frame) => keyAt(shot, frame - 1) !== key);
  return shot.frames - (change ?? 0);
}

/** Shots whose first picture is the last one of the shot before: at the cut it counts for both. */
export function shotJoin(project: Project, { firstNumber }: CheckContext): readonly Finding[] {
  const shots = reelOf(project).map((placed) => placed.shot);
  return shots.flatMap((shot, index): Finding[] => {
    const before = shots[index - 1];
    if (!before) return [];
    const key = keyAt(shot, 0);
    if (key === '' || key !== keyAt(before, before.frames - 1)) return [];
    const [ends, begins] = [standingFrames(before, 'last'), standingFrames(shot, 'first')];
    return [
      {
        id: `shot-join ${before.id} ${shot.id}`,
        kind: 'shot-join',
        group: 'repeats',
        breaks: 'check-assemble',
        sentence: `Shot ${shot.code} begins with the picture shot ${before.code} ends with: over the cut it is held for ${plural(ends + begins, 'frame')}, ${ends} and ${begins}.`,
        place: { shotId: shot.id, levelId: null, fromFrame: 0, toFrame: begins - 1 },
        fixes:
          ends < before.frames
            ? [
                {
                  way: 'shorten',
                  words: `End shot ${before.code} ${plural(ends, 'frame')} earlier, on frame ${before.frames - ends - 1 + firstNumber}`,
                  step: endShotStep(before, before.frames - ends),
                },
              ]
            : [],
      },
    ];
  });
}

/** What is played or leaves as a loop holds one picture over its seam, when it ends with the picture it begins with. */
export function loopSeam(
  shot: Shot,
  range: { readonly fromFrame: number; readonly toFrame: number },
  { firstNumber }: CheckContext,
): readonly Finding[] {
  const { fromFrame, toFrame } = range;
  const key = keyAt(shot, fromFrame);
  if (key === '' || toFrame <= fromFrame || key !== keyAt(shot, toFrame)) return [];
  let ends = 1;
  while (toFrame - ends > fromFrame && keyAt(shot, toFrame - ends) === key) ends++;
  let begins = 1;
  while (fromFrame + begins < toFrame && keyAt(shot, fromFrame + begins) === key) begins++;
  // One picture all along has no seam.
  if (ends + begins > toFrame - fromFrame) return [];
  const isWhole = fromFrame === 0 && toFrame === shot.frames - 1;
  return [
    {
      id: `loop-seam ${shot.id}`,
      kind: 'loop-seam',
      group: 'repeats',
      breaks: null,
      sentence: `Looped over frames ${fromFrame + firstNumber}–${toFrame + firstNumber}, shot ${shot.code} ends with the picture it begins with: at the seam it is held for ${plural(ends + begins, 'frame')}, ${ends} and ${begins}.`,
      place: { shotId: shot.id, levelId: null, fromFrame: toFrame - ends + 1, toFrame },
      fixes: isWhole
        ? [
            {
              way: 'shorten',
              words: `End the shot ${plural(ends, 'frame')} earlier, on frame ${toFrame - ends + firstNumber}`,
              step: endShotStep(shot, shot.frames - ends),
            },
          ]
        : [],
    },
  ];
}
