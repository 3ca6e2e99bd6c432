import { endShotStep } from '@/core/check/endShot';
import type { CheckContext, Finding, Fix } from '@/core/check/finding';
import type { Project, Shot } from '@/core/document/model';
import { type PlacedShot, placedShots } from '@/core/reel/reel';
import { layersAt } from '@/core/render/shotRuns';
import { leavingLevels, stackKey } from '@/core/render/stacks';
import { placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

const keyAt = (shot: Shot, frame: number) => stackKey(layersAt(leavingLevels(shot), frame));

/** How many frames at an end of what an item shows of its shot show the picture that stands there. */
function standingFrames({ shot, fromFrame, startFrame, endFrame }: PlacedShot, end: 'first' | 'last'): number {
  const lastFrame = fromFrame + endFrame - startFrame - 1;
  const key = keyAt(shot, end === 'first' ? fromFrame : lastFrame);
  const starts = new Set(shot.levels.flatMap((level) => placedRuns(level.exposures).flatMap((run) => [run.startFrame, run.endFrame])));
  const inner = [...starts, shot.frames].filter((frame) => frame > fromFrame && frame <= lastFrame).sort((a, b) => a - b);
  if (end === 'first') return (inner.find((frame) => keyAt(shot, frame) !== key) ?? lastFrame + 1) - fromFrame;
  const change = inner.findLast((frame) => keyAt(shot, frame - 1) !== key);
  return lastFrame + 1 - (change ?? fromFrame);
}

/** Ends what an item shows of its shot earlier by so many frames: the shot, where all of it is shown, else the trim. */
function endEarlier({ shot, item, fromFrame, startFrame, endFrame }: PlacedShot, frames: number, firstNumber: number): Fix {
  const lastFrame = fromFrame + endFrame - startFrame - 1 - frames;
  const what = item.trim === null ? `End shot ${shot.code}` : `Trim shot ${shot.code} to end`;
  return {
    way: 'shorten',
    words: `${what} ${plural(frames, 'frame')} earlier, on frame ${lastFrame + firstNumber}`,
    step:
      item.trim === null
        ? endShotStep(shot, lastFrame + 1)
        : { type: 'trimItem', itemId: item.id, trim: { fromFrame, frames: lastFrame + 1 - fromFrame } },
  };
}

/** Shots whose first picture is the last one of the shot before: at the cut it counts for both. */
export function shotJoin(project: Project, { firstNumber }: CheckContext): readonly Finding[] {
  const placed = placedShots(project);
  return placed.flatMap((after, index): Finding[] => {
    const before = placed[index - 1];
    if (!before || before.endFrame !== after.startFrame) return [];
    const lastFrame = before.fromFrame + before.endFrame - before.startFrame - 1;
    // A shot that goes on after a cut through it changes nothing there.
    if (before.shot === after.shot && lastFrame + 1 === after.fromFrame) return [];
    const isPaper = lastFrame >= before.shot.frames || after.fromFrame >= after.shot.frames;
    const key = isPaper ? '' : keyAt(after.shot, after.fromFrame);
    if (key === '' || key !== keyAt(before.shot, lastFrame)) return [];
    const [ends, begins] = [standingFrames(before, 'last'), standingFrames(after, 'first')];
    return [
      {
        id: `shot-join ${before.shot.id} ${after.shot.id}`,
        kind: 'shot-join',
        group: 'repeats',
        breaks: 'check-assemble',
        sentence: `Shot ${after.shot.code} begins with the picture shot ${before.shot.code} ends with: over the cut it is held for ${plural(ends + begins, 'frame')}, ${ends} and ${begins}.`,
        place: { shotId: after.shot.id, levelId: null, fromFrame: after.fromFrame, toFrame: after.fromFrame + begins - 1 },
        fixes: ends < before.endFrame - before.startFrame ? [endEarlier(before, ends, firstNumber)] : [],
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
