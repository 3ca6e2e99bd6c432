import { type DrawingId, drawingById, type Exposure, type Level, type LevelId, type Project, type ShotId } from '@/core/document/model';
import { checkFrame, findDrawing, findLevel, noSuchDrawing, withLevel, withProperties } from '@/core/edit/locate';
import { type Mapping, mapFrames } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import type { Step } from '@/core/edit/step';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, runAt, sameRuns, sliceRuns, spliceRuns } from '@/core/sheet/runs';
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
  if (!run) return refused(`${level.name} has no exposure on frame ${atFrame + project.firstFrameNumber} to remove.`);
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
  if (!run) return refused(`${level.name} has no exposure on frame ${atFrame + project.firstFrameNumber}.`);
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

type OnLevel = { readonly shotId: ShotId; readonly levelId: LevelId };

const exposuresOn = (project: Project, { shotId, levelId }: OnLevel) => mustBeDone(findLevel(project, shotId, levelId)).level.exposures;

/** What is exposed on the frames a step covers. */
const coveredBy = (before: Project, step: OnLevel & { startFrame: number; frames: number }) =>
  sliceRuns(exposuresOn(before, step), step.startFrame, step.startFrame + step.frames);

/** The exposure a step means: its drawing and its length. */
function exposureMeant(before: Project, step: OnLevel & { atFrame: number }) {
  const { drawing, startFrame, endFrame } = exposureAt(before, step);
  return { drawing, frames: endFrame - startFrame };
}

function exposureAt(before: Project, step: OnLevel & { atFrame: number }) {
  const run = runAt(exposuresOn(before, step), step.atFrame);
  if (!run) throw new Error('A step that applies has an exposure.');
  return run;
}

function mapStart<S extends OnLevel & { startFrame: number; frames: number }>(mapping: Mapping, step: S): Outcome<S> {
  const startFrame = mapFrames(mapping, step.levelId, step.startFrame, step.frames);
  return startFrame.ok ? done({ ...step, startFrame: startFrame.value }) : startFrame;
}

function mapAtFrame<S extends OnLevel & { atFrame: number }>(mapping: Mapping, step: S, toldFrames: number | null = null): Outcome<S> {
  const atFrame = mapFrames(mapping, step.levelId, step.atFrame, 1, toldFrames);
  return atFrame.ok ? done({ ...step, atFrame: atFrame.value }) : atFrame;
}

/** Steps on the exposures of a level. */
export const exposureSteps: StepRules<ExposureStepType> = {
  expose: { apply: expose, invert: invertRuns(expose), map: mapStart, expects: coveredBy },
  blank: { apply: blank, invert: invertRuns(blank), map: mapStart, expects: coveredBy },
  removeExposure: { apply: removeExposure, invert: invertRuns(removeExposure), map: mapAtFrame, expects: exposureMeant },
  setLength: {
    apply: setLength,
    invert: invertRuns(setLength),
    map: (mapping, step) => mapAtFrame(mapping, step, step.frames),
    expects(before, step) {
      const exposure = exposureMeant(before, step);
      const longerFrames = step.frames - exposure.frames;
      if (step.following === 'push' || longerFrames <= 0) return exposure;
      const { endFrame } = exposureAt(before, step);
      return { ...exposure, covered: sliceRuns(exposuresOn(before, step), endFrame, endFrame + longerFrames) };
    },
  },
  replaceRuns: {
    apply: replaceRuns,
    invert: invertRuns(replaceRuns),
    map(mapping, step) {
      const startFrame = mapFrames(mapping, step.levelId, step.startFrame, step.removedFrames, framesOfRuns(step.runs));
      return startFrame.ok ? done({ ...step, startFrame: startFrame.value }) : startFrame;
    },
    expects: (before, step) => sliceRuns(exposuresOn(before, step), step.startFrame, step.startFrame + step.removedFrames),
  },
};
