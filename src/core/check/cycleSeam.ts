import type { Finding, LevelRule } from '@/core/check/finding';
import { occurrencesOf } from '@/core/check/occurrence';
import { drawingById } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { type PlacedRun, placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

const lengthOf = (run: PlacedRun) => run.endFrame - run.startFrame;

/*
 * A cycle that ends on the drawing it begins with, put down over and over, holds that drawing for both at
 * every seam: `1*2 2*2 3*2 1*2` three times is `1*2 2*2 3*2 1*4 2*2 3*2 1*4 2*2 3*2 1*2`. So a cycle has a
 * doubled seam when a drawing comes back with the same drawings between, each as long as the time before,
 * and stands at every return but the last just as long as at the start and the end together.
 */
function seamsFrom(runs: readonly PlacedRun[], start: number, comesBack: number): { seams: readonly PlacedRun[]; end: number } | null {
  const first = runs[start];
  const period = comesBack - start;
  if (!first || first.drawing === null || period < 2) return null;
  const double = lengthOf(first) * 2;
  const seams: PlacedRun[] = [];
  let index = start + 1;
  for (; index < runs.length; index++) {
    const run = runs[index] as PlacedRun;
    const like = runs[index - period];
    const place = (index - start) % period;
    if (place === 0) {
      if (run.drawing !== first.drawing || lengthOf(run) !== double) break;
      seams.push(run);
    } else if (index - start > period && (like?.drawing !== run.drawing || lengthOf(like) !== lengthOf(run))) break;
  }
  const last = runs[index];
  // What comes back half as long is the cycle's own end; without one whole round after a seam it is a hold.
  const ended = last?.drawing === first.drawing && (index - start) % period === 0;
  return seams.length > 0 && (ended || seams.length > 1) ? { seams, end: index } : null;
}

/** For each run the next of its drawing, with no blank between; 0 when it doesn't come back so. */
function comingBack(runs: readonly PlacedRun[]): Uint32Array {
  const next = new Uint32Array(runs.length);
  const seen = new Map<string, number>();
  for (let index = runs.length - 1; index >= 0; index--) {
    const drawing = runs[index]?.drawing ?? null;
    if (drawing === null) seen.clear();
    else {
      next[index] = seen.get(drawing) ?? 0;
      seen.set(drawing, index);
    }
  }
  return next;
}

/** Cycles whose first drawing is also their last: it is held for twice as long wherever the cycle begins anew. */
export const cycleSeam: LevelRule = (shot, level, { firstNumber }) => {
  if (level.kind !== 'animated') return [];
  const runs = placedRuns(level.exposures);
  const occurrence = occurrencesOf(runs);
  const findings: Finding[] = [];
  const back = comingBack(runs);
  for (let start = 0; start < runs.length; start++) {
    const found = seamsFrom(runs, start, back[start] as number);
    const first = runs[start];
    const drawing = drawingById(level, first?.drawing ?? null);
    const seam = found?.seams[0];
    if (!found || !first || !drawing || !seam) continue;
    const at = { shotId: shot.id, levelId: level.id };
    const frames = lengthOf(first);
    const steps = found.seams.map(
      (run): Step => ({ type: 'replaceRuns', ...at, startFrame: run.startFrame, removedFrames: frames, runs: [] }),
    );
    findings.push({
      id: `cycle-seam ${level.id} ${drawing.id}${occurrence(start)}`,
      kind: 'cycle-seam',
      group: 'repeats',
      breaks: 'draw-check',
      sentence: `The cycle of ${level.name} begins and ends with ${drawing.number}: it is held for ${plural(lengthOf(seam), 'frame')} at every seam, ${frames} elsewhere, first from frame ${seam.startFrame + firstNumber}.`,
      place: { ...at, fromFrame: seam.startFrame, toFrame: seam.endFrame - 1 },
      fixes: [
        {
          way: 'shorten',
          words: `Hold ${drawing.number} ${plural(frames, 'frame')} at ${found.seams.length === 1 ? 'the seam' : `all ${found.seams.length} seams`}; what follows moves up by ${steps.length * frames}`,
          step: { type: 'together', words: `Seams of ${level.name}`, steps: steps.toReversed() },
        },
      ],
    });
    start = found.end - 1;
  }
  return findings;
};
