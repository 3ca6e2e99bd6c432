import type { Finding, FindingKind, Fix, Place } from '@/core/check/finding';
import { type Level, levelById, type Project, shotById } from '@/core/document/model';
import { MOST_STEPS } from '@/core/edit/edit';
import { lockedLevelOf } from '@/core/edit/locked';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, indexOfFrame, placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/** What fixing several findings in one way comes to: one step, what each fix says, what it leaves, and how many could not be fixed. */
export type FixPlan = { readonly step: Step; readonly says: readonly string[]; readonly after: Project; readonly left: number };

/** Where a finding is, in a few words. */
const whereIs = ({ shots, firstFrameNumber }: Project, { shotId, fromFrame }: Place): string =>
  `${shots.find((shot) => shot.id === shotId)?.code ?? ''} frame ${fromFrame + firstFrameNumber}`;

/*
 * Looking at a whole film anew after each fix costs as much as the film is long, for each. So what was found by one
 * look is fixed from the last place of a level to its first: what a fix moves lies after it, where all is fixed
 * already. A fix stands back for the next look when it touches an exposure, or one beside it, that another has
 * touched in this round, or lies past one that has moved: it was worked out for a sheet that is no longer there.
 */

/** Frames of a level that a step touches; null when it touches more than can be told by frames. */
type Touch = {
  readonly levelId: string;
  readonly shotId: string;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly moves: boolean;
};

function touches(step: Step): readonly Touch[] | null {
  switch (step.type) {
    case 'together': {
      const all = step.steps.map(touches);
      return all.some((part) => part === null) ? null : all.flatMap((part) => part ?? []);
    }
    case 'setLength':
      return [
        {
          shotId: step.shotId,
          levelId: step.levelId,
          fromFrame: step.atFrame,
          toFrame: step.atFrame + step.frames,
          moves: step.following === 'push',
        },
      ];
    case 'replaceRuns': {
      const inserted = framesOfRuns(step.runs);
      const toFrame = step.startFrame + Math.max(step.removedFrames, inserted, 1) - 1;
      return [{ shotId: step.shotId, levelId: step.levelId, fromFrame: step.startFrame, toFrame, moves: inserted !== step.removedFrames }];
    }
    case 'deleteDrawing':
      // It goes where nothing of it is shown any more; where something is, the parts before it say so.
      return [];
    default:
      return null;
  }
}

/** What a round has touched on one level: exposures by number, as they stood when it began, and the first frame that moved. */
type TouchedRuns = { readonly runs: Set<number>; movedFrom: number };

class Round {
  private readonly levels = new Map<string, TouchedRuns>();

  constructor(private readonly look: Project) {}

  /** Whether a step may still be made in this round; what it touches is taken. */
  takes(step: Step): boolean {
    const parts = touches(step);
    if (parts === null) return this.takesWhole(step);
    const claims: { touched: TouchedRuns; runs: readonly number[]; movedFrom: number }[] = [];
    for (const part of parts) {
      const shot = shotById(this.look, part.shotId);
      const level = shot && levelById(shot, part.levelId);
      if (!level) return false;
      const touched = this.levels.get(level.id) ?? { runs: new Set<number>(), movedFrom: Number.POSITIVE_INFINITY };
      this.levels.set(level.id, touched);
      const runs = runsAround(level, part);
      if (part.toFrame >= touched.movedFrom || runs.some((run) => touched.runs.has(run))) return false;
      claims.push({ touched, runs, movedFrom: part.moves ? part.fromFrame : Number.POSITIVE_INFINITY });
    }
    for (const { touched, runs, movedFrom } of claims) {
      for (const run of runs) touched.runs.add(run);
      touched.movedFrom = Math.min(touched.movedFrom, movedFrom);
    }
    return true;
  }

  /** Of steps that touch more than some frames, one a level is made in a round, and nothing else on it. */
  private takesWhole(step: Step): boolean {
    if (!('levelId' in step) || this.levels.has(step.levelId)) return false;
    this.levels.set(step.levelId, { runs: new Set(), movedFrom: 0 });
    return true;
  }
}

/** The exposures that some frames lie on, and those beside them, by number. */
function runsAround(level: Level, { fromFrame, toFrame }: Touch): readonly number[] {
  const runs = placedRuns(level.exposures);
  const first = Math.max(0, indexOfFrame(runs, fromFrame) - 1);
  const last = indexOfFrame(runs, toFrame) + 1;
  return Array.from({ length: last - first + 1 }, (_, index) => first + index);
}

/** The last frame a step touches, to go through a level from its end. */
const lastFrameOf = ({ step }: Fix): number => Math.max(0, ...(touches(step) ?? []).map((part) => part.fromFrame));

/**
 * Fixes every finding of a kind in one way. `look` finds what is open in a document; it is asked again until nothing
 * of the kind is left that can be fixed.
 */
export function fixAll(project: Project, kind: FindingKind, way: string, look: (project: Project) => readonly Finding[]): Outcome<FixPlan> {
  const steps: Step[] = [];
  const says: string[] = [];
  const failed = new Set<string>();
  let after = project;
  for (let made = 1; made > 0 && steps.length < MOST_STEPS; ) {
    made = 0;
    const round = new Round(after);
    const found = look(after).flatMap((finding) => {
      const fix = finding.kind === kind && !failed.has(finding.id) ? finding.fixes.find((candidate) => candidate.way === way) : undefined;
      return fix ? [{ finding, fix, at: lastFrameOf(fix) }] : [];
    });
    for (const { finding, fix } of found.toSorted((a, b) => b.at - a.at)) {
      if (steps.length >= MOST_STEPS) break;
      // The first of a round is always made: else one that touches much would wait for ever.
      if (!round.takes(fix.step) && made > 0) continue;
      const fixed = lockedLevelOf(after, fix.step) ? null : applyStep(after, fix.step);
      // What a fix doesn't change would be found and fixed for ever.
      if (!fixed?.ok || fixed.value === after) {
        failed.add(finding.id);
        continue;
      }
      steps.push(fix.step);
      says.push(finding.place ? `${whereIs(after, finding.place)}: ${fix.words}` : fix.words);
      after = fixed.value;
      made++;
    }
  }
  if (steps.length === 0) return refused('None of these can be fixed this way: their levels are locked.');
  return done({
    step: { type: 'together', words: `Fix ${plural(steps.length, 'finding')}`, steps },
    says: says.toReversed(),
    after,
    left: failed.size,
  });
}
