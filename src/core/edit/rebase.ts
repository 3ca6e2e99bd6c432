import equal from 'fast-deep-equal';
import type { Project, Shot } from '@/core/document/model';
import { ALIKE, type Splice, splicedAlignment, withMatch } from '@/core/edit/alignment';
import { findLevel } from '@/core/edit/locate';
import type { Mapping } from '@/core/edit/mapping';
import type { Step } from '@/core/edit/step';
import { applyStep, mapStep, type SingleStep, stepExpects } from '@/core/edit/table';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, runAt } from '@/core/sheet/runs';

/*
 * Two people change one document without knowing of each other: `others` made theirs on `base` first, and
 * `mine`, made on `base` too, are made again on top of theirs. A step of mine may mean something else there:
 * its frames were moved, its drawing was deleted, what it replaces was replaced. So every step is mapped to
 * the new document, and made there only when it replaces the same as before. Else it is a conflict, and
 * stays out of the document until a person has decided.
 *
 * While this goes on there are two documents: `from`, on which the next step of mine was made, and `to`, on
 * which it is to be made. Between their columns lies an alignment (see `alignment.ts`), which theirs change
 * on the one side and mine on both.
 */

type State = Mapping;

/** What a step of mine came to: the step as it is to be made now, or why it can't be. `step` is null when the document is as it wanted already. */
export type RebaseOutcome = { readonly kind: 'made'; readonly step: Step | null } | { readonly kind: 'conflict'; readonly reason: string };

/**
 * The document with theirs and whatever of mine could be made, what each of mine came to, and how the document
 * with mine alone lies to it: what was to be made on the one can be mapped to the other.
 */
export type RebaseResult = { readonly project: Project; readonly mine: readonly RebaseOutcome[]; readonly mapping: Mapping };

/** How a step moves the frames of its level's column; null when it moves none. */
function spliceOf(project: Project, step: SingleStep): Splice | null {
  if (step.type !== 'setLength' && step.type !== 'removeExposure' && step.type !== 'replaceRuns') return null;
  const { level } = mustBeDone(findLevel(project, step.shotId, step.levelId));
  const totalFrames = framesOfRuns(level.exposures);
  if (step.type === 'replaceRuns') {
    const startFrame = Math.min(step.startFrame, totalFrames);
    // Past the end all is blank: taking frames out there moves nothing.
    const removedFrames = Math.min(step.removedFrames, totalFrames - startFrame);
    const insertedFrames = step.startFrame - startFrame + framesOfRuns(step.runs);
    return startFrame === totalFrames ? null : { startFrame, removedFrames, insertedFrames };
  }
  const run = runAt(level.exposures, step.atFrame);
  if (!run) return null;
  const frames = run.endFrame - run.startFrame;
  if (step.type === 'removeExposure') return { startFrame: run.startFrame, removedFrames: frames, insertedFrames: 0 };
  if (step.following === 'overwrite') return null;
  const longerFrames = step.frames - frames;
  return longerFrames >= 0
    ? { startFrame: run.endFrame, removedFrames: 0, insertedFrames: longerFrames }
    : { startFrame: run.startFrame + step.frames, removedFrames: -longerFrames, insertedFrames: 0 };
}

function withSplice(state: State, side: 'from' | 'to', step: SingleStep): State {
  const splice = spliceOf(state[side], step);
  if (!splice || !('levelId' in step)) return state;
  const columns = new Map(state.columns);
  columns.set(step.levelId, splicedAlignment(columns.get(step.levelId) ?? ALIKE, side, splice));
  return { ...state, columns };
}

/** The state with a step made on one side alone. */
function madeOn(state: State, side: 'from' | 'to', step: Step): Outcome<State> {
  if (step.type === 'together') {
    let next = done(state) as Outcome<State>;
    for (const part of step.steps) {
      if (!next.ok) return next;
      next = madeOn(next.value, side, part);
    }
    return next;
  }
  const after = applyStep(state[side], step);
  return after.ok ? done({ ...withSplice(state, side, step), [side]: after.value }) : after;
}

/** The state with a step made on both sides, and the step as it is on `to`; refused when it can't be. */
function madeOnBoth(state: State, step: Step): Outcome<{ state: State; step: Step }> {
  if (step.type !== 'together') return singleMadeOnBoth(state, step);
  const steps: Step[] = [];
  let next = state;
  for (const part of step.steps) {
    const made = madeOnBoth(next, part);
    if (!made.ok) return made;
    next = made.value.state;
    steps.push(made.value.step);
  }
  return done({ state: next, step: { ...step, steps } });
}

/** What a step that was made leaves where it was made: of an exposure's length, whose length it is. */
function leftBy(before: Project, after: Project, step: SingleStep): unknown {
  if (step.type !== 'setLength') return stepExpects(after, step);
  const run = runAt(mustBeDone(findLevel(before, step.shotId, step.levelId)).level.exposures, step.atFrame);
  // Blanks look all alike: one of another length is another one.
  return run?.drawing ?? (run ? run.endFrame - run.startFrame : null);
}

function singleMadeOnBoth(state: State, step: SingleStep): Outcome<{ state: State; step: Step }> {
  const from = applyStep(state.from, step);
  if (!from.ok) return from;
  if (state.from === state.to) return done({ state: { ...state, from: from.value, to: from.value }, step });
  const mapped = mapStep(state, step);
  if (!mapped.ok) return mapped;
  const to = applyStep(state.to, mapped.value);
  if (!to.ok) return to;
  const changes = to.value !== state.to;
  const single = mapped.value as SingleStep;
  if (single.type === step.type) {
    // Where it changes nothing, what it wanted must be what is there, and not just look like it.
    const isMeant = changes
      ? equal(stepExpects(state.from, step), stepExpects(state.to, single))
      : equal(leftBy(state.from, from.value, step), leftBy(state.to, to.value, single));
    if (!isMeant) return refused('It was changed in another window meanwhile.');
  }
  const [splice, splicedTo] = [spliceOf(state.from, step), spliceOf(state.to, single)];
  let next = withSplice(withSplice(state, 'from', step), 'to', single);
  if (splice && splicedTo && 'levelId' in step && splice.removedFrames !== splice.insertedFrames) {
    const frames = Math.min(splice.insertedFrames, splicedTo.insertedFrames);
    const columns = new Map(next.columns);
    columns.set(step.levelId, withMatch(columns.get(step.levelId) ?? ALIKE, splice.startFrame, splicedTo.startFrame, frames));
    next = { ...next, columns };
  }
  return done({ state: { ...next, from: from.value, to: to.value }, step: single });
}

/**
 * Makes `mine` again on top of `others`; both were made on `base`, and `others` apply there. Those of mine that
 * `isThere` says are among the others already are not made again.
 */
export function rebase(
  base: Project,
  others: readonly Step[],
  mine: readonly Step[],
  isThere: (index: number) => boolean = () => false,
): RebaseResult {
  let state: State = { from: base, to: base, columns: new Map() };
  for (const step of others) state = mustBeDone(madeOn(state, 'to', step));
  const results = mine.map((step, index): RebaseOutcome => {
    if (isThere(index)) {
      const alone = madeOn(state, 'from', step);
      if (alone.ok) state = alone.value;
      return { kind: 'made', step: null };
    }
    const made = madeOnBoth(state, step);
    if (made.ok) {
      const changes = made.value.state.to !== state.to;
      state = made.value.state;
      return { kind: 'made', step: changes ? made.value.step : null };
    }
    // What follows was made with it, so it goes on being in `from`.
    const alone = madeOn(state, 'from', step);
    if (alone.ok) state = alone.value;
    return { kind: 'conflict', reason: made.reason };
  });
  return { project: state.to, mine: results, mapping: state };
}

/**
 * `mine` as they are to be made on top of `others`; both were made on `base`. Null unless each of them can be made there and
 * changes something: what else becomes of them is for whoever made them to see.
 */
export function rebasedWhole(base: Project, others: readonly Step[], mine: readonly Step[]): readonly Step[] | null {
  const steps = rebase(base, others, mine).mine.flatMap((came) => (came.kind === 'made' && came.step ? [came.step] : []));
  return steps.length === mine.length ? steps : null;
}

/**
 * Steps that were to be made one after another on `mapping.from`, as they are to be made on `mapping.to`; null
 * for one that can't be made there.
 */
export function remap(mapping: Mapping, steps: readonly Step[]): readonly (Step | null)[] {
  let state = mapping;
  return steps.map((step) => {
    const made = madeOnBoth(state, step);
    if (made.ok) {
      state = made.value.state;
      return made.value.step;
    }
    const alone = madeOn(state, 'from', step);
    if (alone.ok) state = alone.value;
    return null;
  });
}

/** The shot a step is for, as it was before it was removed; undefined when the step is for none, or the shot is still there. */
export function shotRemoved(before: Project, after: Project, step: Step): Shot | undefined {
  if (step.type === 'together') {
    for (const part of step.steps) {
      const shot = shotRemoved(before, after, part);
      if (shot) return shot;
    }
    return undefined;
  }
  if (!('shotId' in step) || step.shotId === null) return undefined;
  if (after.shots.some((shot) => shot.id === step.shotId)) return undefined;
  return before.shots.find((shot) => shot.id === step.shotId);
}
