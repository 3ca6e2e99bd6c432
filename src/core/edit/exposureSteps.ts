import { checkFrame, findDrawing, findLevel, noSuchDrawing, withLevel, withProperties } from '@/core/edit/locate';
import type { StepRules } from '@/core/edit/rule';
import type { Step } from '@/core/edit/step';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { type DrawingId, drawingById, type Exposure, type Level, type LevelId, type Project, type ShotId } from '@/core/sheet/document';
import { framesOfRuns, runAt, sameRuns, spliceRuns } from '@/core/sheet/runs';
import { checkLength, LONGEST_SHOT_FRAMES } from '@/core/time/counts';

type ExposureStepType = 'expose' | 'blank' | 'removeExposure' | 'setLength' | 'replaceRuns';

/**
 * The step that turns the column `after` back into `before`: only the part between the runs they share
 * at the top and at the bottom is replaced.
 */
export function runsDifference(shotId: ShotId, levelId: LevelId, after: readonly Exposure[], before: readonly Exposure[]): Step {
  const same = (a: Exposure | undefined, b: Exposure | undefined) =>
    a !== undefined && b !== undefined && a.drawing === b.drawing && a.frames === b.frames;
  let top = 0;
  let startFrame = 0;
  while (same(after[top], before[top])) {
    startFrame += (after[top] as Exposure).frames;
    top++;
  }
  let bottom = 0;
  while (bottom < Math.min(after.length, before.length) - top && same(after[after.length - 1 - bottom], before[before.length - 1 - bottom]))
    bottom++;
  return {
    type: 'replaceRuns',
    shotId,
    levelId,
    startFrame,
    removedFrames: framesOfRuns(after.slice(top, after.length - bottom)),
    runs: before.slice(top, before.length - bottom),
  };
}

function withRuns(project: Project, shotId: ShotId, level: Level, runs: readonly Exposure[]): Outcome<Project> {
  if (sameRuns(runs, level.exposures)) return done(project);
  const frames = framesOfRuns(runs);
  if (frames > LONGEST_SHOT_FRAMES) return refused(`${level.name} would run ${frames} frames; the most is ${LONGEST_SHOT_FRAMES}.`);
  return done(withLevel(project, shotId, level.id, (found) => withProperties(found, { exposures: runs })));
}

function checkAnimated(level: Level): Outcome<Level> {
  if (level.kind === 'still')
    return refused(`${level.name} is a still level: it shows its drawing for the whole shot and has no exposures.`);
  return done(level);
}

/** The column with `startFrame` to `startFrame + frames` (exclusive) replaced by one run, nothing else moved. */
function overwritten(level: Level, startFrame: number, run: Exposure): readonly Exposure[] {
  const gap = startFrame - framesOfRuns(level.exposures);
  if (gap >= 0) return spliceRuns(level.exposures, startFrame - gap, 0, gap > 0 ? [{ drawing: null, frames: gap }, run] : [run]);
  return spliceRuns(level.exposures, startFrame, run.frames, [run]);
}

function place(project: Project, shotId: ShotId, levelId: LevelId, startFrame: number, run: Exposure): Outcome<Project> {
  const found = findLevel(project, shotId, levelId);
  if (!found.ok) return found;
  const { shot, level } = found.value;
  const animated = checkAnimated(level);
  if (!animated.ok) return animated;
  const frame = checkFrame(project, shot, startFrame);
  if (!frame.ok) return frame;
  const length = checkLength(run.frames);
  if (!length.ok) return length;
  return withRuns(project, shotId, level, overwritten(level, startFrame, run));
}

/** What undoes any exposure step: the column as it was, where it differs. */
function invertRuns<S extends Extract<Step, { type: ExposureStepType }>>(apply: (project: Project, step: S) => Outcome<Project>) {
  return (before: Project, step: S): Step => {
    const levelIn = (project: Project) => mustBeDone(findLevel(project, step.shotId, step.levelId)).level.exposures;
    return runsDifference(step.shotId, step.levelId, levelIn(mustBeDone(apply(before, step))), levelIn(before));
  };
}

const expose: StepRules<'expose'>['expose']['apply'] = (project, { shotId, levelId, drawingId, startFrame, frames }) => {
  const found = findLevel(project, shotId, levelId);
  if (!found.ok) return found;
  const drawing = findDrawing(found.value.level, drawingId);
  return drawing.ok ? place(project, shotId, levelId, startFrame, { drawing: drawingId, frames }) : drawing;
};

const blank: StepRules<'blank'>['blank']['apply'] = (project, { shotId, levelId, startFrame, frames }) =>
  place(project, shotId, levelId, startFrame, { drawing: null, frames });

const removeExposure: StepRules<'removeExposure'>['removeExposure']['apply'] = (project, { shotId, levelId, atFrame }) => {
  const found = findLevel(project, shotId, levelId);
  if (!found.ok) return found;
  const { level } = found.value;
  const run = runAt(level.exposures, atFrame);
  if (!run) return refused(`${level.name} has no exposure on frame ${atFrame + project.startFrame} to remove.`);
  return withRuns(project, shotId, level, spliceRuns(level.exposures, run.startFrame, run.endFrame - run.startFrame, []));
};

/*
 * A longer exposure that overwrites takes frames from what follows; a shorter one that overwrites
 * leaves blank, so that what follows keeps its frames.
 */
const setLength: StepRules<'setLength'>['setLength']['apply'] = (project, { shotId, levelId, atFrame, frames, following }) => {
  const found = findLevel(project, shotId, levelId);
  if (!found.ok) return found;
  const { level } = found.value;
  const length = checkLength(frames);
  if (!length.ok) return length;
  const run = runAt(level.exposures, atFrame);
  if (!run) return refused(`${level.name} has no exposure on frame ${atFrame + project.startFrame}.`);
  const oldFrames = run.endFrame - run.startFrame;
  const resized = { drawing: run.drawing, frames };
  if (following === 'push' || run.endFrame === framesOfRuns(level.exposures)) {
    return withRuns(project, shotId, level, spliceRuns(level.exposures, run.startFrame, oldFrames, [resized]));
  }
  const left = Math.max(0, oldFrames - frames);
  const filled = left > 0 ? [resized, { drawing: null, frames: left }] : [resized];
  return withRuns(project, shotId, level, spliceRuns(level.exposures, run.startFrame, Math.max(oldFrames, frames), filled));
};

const MANY_RUNS = 16;

const replaceRuns: StepRules<'replaceRuns'>['replaceRuns']['apply'] = (project, { shotId, levelId, startFrame, removedFrames, runs }) => {
  const found = findLevel(project, shotId, levelId);
  if (!found.ok) return found;
  const { level } = found.value;
  // A few drawings are found sooner than the thousands of a long level are listed by id; many are not.
  const isThere = (drawing: DrawingId) =>
    runs.length > MANY_RUNS ? drawingById(level, drawing) !== undefined : findDrawing(level, drawing).ok;
  for (const run of runs) {
    if (run.drawing !== null && !isThere(run.drawing)) return noSuchDrawing(level, run.drawing);
    const length = checkLength(run.frames);
    if (!length.ok) return length;
  }
  const total = framesOfRuns(level.exposures);
  const padding: readonly Exposure[] = startFrame > total ? [{ drawing: null, frames: startFrame - total }] : [];
  const at = Math.min(startFrame, total);
  return withRuns(project, shotId, level, spliceRuns(level.exposures, at, removedFrames, [...padding, ...runs]));
};

/** Steps on the exposures of a level. */
export const exposureSteps: StepRules<ExposureStepType> = {
  expose: { apply: expose, invert: invertRuns(expose) },
  blank: { apply: blank, invert: invertRuns(blank) },
  removeExposure: { apply: removeExposure, invert: invertRuns(removeExposure) },
  setLength: { apply: setLength, invert: invertRuns(setLength) },
  replaceRuns: { apply: replaceRuns, invert: invertRuns(replaceRuns) },
};
