import { type Drawing, drawingById, type Exposure, type Level } from '@/core/document/model';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Resize, tellingEdit } from '@/core/edit/telling';
import { type Outcome, refused } from '@/core/outcome';
import { type Block, exposuresTouched, levelsOfBlock } from '@/core/sheet/block';
import { numberAfter, numbersTaken, plannedInbetween } from '@/core/sheet/numbers';
import { cycled, onEvery, onEveryKeepingTime, reversed, staggered, thereAndBack } from '@/core/sheet/retime';
import { framesOfRuns, runAt, sameRuns, sliceRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { PING_PONG, stepName } from '@/core/words';

/** The trade's words for a step of exposures. */
export const stepWord = (frames: number): string => stepName(frames, `for ${frames} frames each`);

/**
 * The step that puts other exposures in the place of some of a level: what follows moves by the difference,
 * or keeps its frames and is covered, fewer frames then leaving blank. Null when nothing changes.
 */
export function putRuns(
  context: EditContext,
  level: Level,
  startFrame: number,
  oldFrames: number,
  inserted: readonly Exposure[],
): Step | null {
  const newFrames = framesOfRuns(inserted);
  const cover = context.following === 'overwrite' || startFrame + oldFrames >= framesOfRuns(level.exposures);
  const removedFrames = cover ? Math.max(oldFrames, newFrames) : oldFrames;
  const left = removedFrames - newFrames;
  const runs = cover && left > 0 ? [...inserted, { drawing: null, frames: left }] : inserted;
  if (newFrames === oldFrames && sameRuns(tidyRuns(inserted), tidyRuns(sliceRuns(level.exposures, startFrame, startFrame + oldFrames))))
    return null;
  return { type: 'replaceRuns', shotId: context.shot.id, levelId: level.id, startFrame, removedFrames, runs };
}

/** The whole exposures a block touches, held so many frames each, in the same order. */
export function setLengths(context: EditContext, block: Block, frames: number): Outcome<Edit> {
  const length = checkLength(frames);
  if (!length.ok) return length;
  const steps: Step[] = [];
  let exposures = 0;
  const resized: Resize[] = [];
  for (const level of levelsOfBlock(context.shot, block)) {
    const touched = exposuresTouched(level, context.shot.frames, block);
    if (!touched) continue;
    const before = sliceRuns(level.exposures, touched.startFrame, touched.endFrame);
    const held = onEvery(before, frames);
    exposures += before.filter((run) => run.drawing !== null).length;
    resized.push({ levelId: level.id, endFrame: touched.endFrame, difference: framesOfRuns(held) - framesOfRuns(before) });
    const step = putRuns(context, level, touched.startFrame, touched.endFrame - touched.startFrame, held);
    if (step) steps.push(step);
  }
  if (exposures === 0) return refused('There is no drawing here whose length could be set.');
  const words = `${plural(exposures, 'exposure')} ${stepWord(frames)}`;
  if (steps.length === 0) return refused(`${words} already.`);
  return tellingEdit(context, steps, words, words, resized);
}

/** The frames of a block on a step with their time kept: drawings off the step go, and planned in-betweens come where one would stand on. */
export function setStepKeepingTime(context: EditContext, block: Block, frames: number): Outcome<Edit> {
  const length = checkLength(frames);
  if (!length.ok) return length;
  const steps: Step[] = [];
  const made: string[] = [];
  for (const level of levelsOfBlock(context.shot, block)) {
    const before = sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1);
    const taken = numbersTaken(level);
    const added: Drawing[] = [];
    const runs = onEveryKeepingTime(before, frames).map(({ drawing, newAfter, frames: held }): Exposure => {
      if (newAfter === null) return { drawing, frames: held };
      const planned = plannedInbetween(context.newId(), numberAfter(drawingById(level, newAfter)?.number ?? '', taken));
      added.push(planned);
      return { drawing: planned.id, frames: held };
    });
    const step = putRuns(context, level, block.fromFrame, block.toFrame + 1 - block.fromFrame, runs);
    if (!step) continue;
    made.push(...added.map((drawing) => drawing.number));
    steps.push(...addDrawings(context, level, added), step);
  }
  const made_ =
    made.length === 0
      ? ''
      : `; ${plural(made.length, 'new planned in-between')}: ${made.slice(0, 12).join(', ')}${made.length > 12 ? ' …' : ''}`;
  const where = framesInWords(block.fromFrame, block.toFrame, context.firstNumber);
  if (steps.length === 0)
    return refused(`Nothing changes: ${where} ${block.fromFrame === block.toFrame ? 'is' : 'are'} on that step or blank.`);
  return tellingEdit(context, steps, `${stepWord(frames)}, same length`, `${where} ${stepWord(frames)}, same length${made_}`);
}

/** Steps that add drawings at the end of a level's list. */
export const addDrawings = ({ shot }: EditContext, level: Level, drawings: readonly Drawing[]): readonly Step[] =>
  drawings.map((drawing, index) => ({
    type: 'addDrawing',
    shotId: shot.id,
    levelId: level.id,
    drawing,
    index: level.drawings.length + index,
  }));

/** The exposure at a frame held to another frame (inclusive). */
export function holdTo(context: EditContext, level: Level, frame: number, toFrame: number): Outcome<Edit> {
  const { firstNumber } = context;
  const run = runAt(level.exposures, frame);
  const drawing = run && drawingById(level, run.drawing);
  if (!run || !drawing) return refused(`${level.name} shows no drawing on frame ${frame + firstNumber} that could be held.`);
  if (toFrame < run.startFrame)
    return refused(`Drawing ${drawing.number} begins on frame ${run.startFrame + firstNumber}: hold it to that frame or a later one.`);
  const frames = toFrame - run.startFrame + 1;
  const step = putRuns(context, level, run.startFrame, run.endFrame - run.startFrame, [{ drawing: drawing.id, frames }]);
  if (!step) return refused(`Drawing ${drawing.number} is held to frame ${toFrame + firstNumber} already.`);
  const says = `Hold ${drawing.number} to frame ${toFrame + firstNumber}: ${run.endFrame - run.startFrame} → ${plural(frames, 'frame')}`;
  const difference = frames - (run.endFrame - run.startFrame);
  return tellingEdit(context, [step], `Hold ${drawing.number}`, says, [{ levelId: level.id, endFrame: run.endFrame, difference }]);
}

/** The frames of a block left blank; what follows stays. */
export function blankBlock(context: EditContext, block: Block): Outcome<Edit> {
  const frames = block.toFrame + 1 - block.fromFrame;
  const steps = levelsOfBlock(context.shot, block).flatMap((level): Step[] => {
    const step = putRuns({ ...context, following: 'overwrite' }, level, block.fromFrame, frames, [{ drawing: null, frames }]);
    return step ? [step] : [];
  });
  if (steps.length === 0) return refused('It is blank here already.');
  return tellingEdit(
    context,
    steps,
    'Leave blank',
    `Leave ${framesInWords(block.fromFrame, block.toFrame, context.firstNumber)} blank, what follows stays`,
  );
}

/** The whole exposures a block touches taken out, with the blanks between them; what follows moves up. */
export function removeExposures(context: EditContext, block: Block): Outcome<Edit> {
  let exposures = 0;
  const resized: Resize[] = [];
  const steps = levelsOfBlock(context.shot, block).flatMap((level): Step[] => {
    const touched = exposuresTouched(level, context.shot.frames, block);
    if (!touched) return [];
    const { startFrame, endFrame } = touched;
    resized.push({ levelId: level.id, endFrame, difference: startFrame - endFrame });
    exposures += sliceRuns(level.exposures, startFrame, endFrame).filter((run) => run.drawing !== null).length;
    return [
      { type: 'replaceRuns', shotId: context.shot.id, levelId: level.id, startFrame, removedFrames: endFrame - startFrame, runs: [] },
    ];
  });
  if (steps.length === 0) return refused('There is no exposure here to remove.');
  const words = `Remove ${plural(exposures, 'exposure')}`;
  return tellingEdit({ ...context, following: 'push' }, steps, words, words, resized);
}

/** A way to make other exposures of some. */
type Pattern = (before: readonly Exposure[]) => readonly Exposure[];

function repattern(context: EditContext, block: Block, words: string, pattern: Pattern): Outcome<Edit> {
  const steps: Step[] = [];
  const resized: Resize[] = [];
  for (const level of levelsOfBlock(context.shot, block)) {
    const before = sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1);
    if (before.every((run) => run.drawing === null)) continue;
    const made = pattern(before);
    resized.push({ levelId: level.id, endFrame: block.toFrame + 1, difference: framesOfRuns(made) - framesOfRuns(before) });
    const step = putRuns(context, level, block.fromFrame, block.toFrame + 1 - block.fromFrame, made);
    if (step) steps.push(step);
  }
  const where = framesInWords(block.fromFrame, block.toFrame, context.firstNumber);
  if (steps.length === 0) return refused(`${words}: nothing changes on ${where}.`);
  return tellingEdit(context, steps, words, `${words}: ${where}`, resized);
}

/**
 * A block round and round, to so many frames in all, from its exposure number `from` (1 is its first).
 */
export function cycleBlock(context: EditContext, block: Block, frames: number, from = 1): Outcome<Edit> {
  const length = checkLength(frames);
  if (!length.ok) return length;
  if (!Number.isInteger(from) || from < 1) return refused(`A cycle begins with its exposure 1, 2, 3 …, not ${from}.`);
  return repattern(context, block, `Cycle to ${plural(frames, 'frame')}`, (before) => cycled(before, frames, from - 1));
}

/** A block there and back, each end once; then round and round to `frames` in all when they are given. */
export function thereAndBackBlock(context: EditContext, block: Block, frames?: number): Outcome<Edit> {
  if (frames !== undefined) {
    const length = checkLength(frames);
    if (!length.ok) return length;
  }
  return repattern(context, block, PING_PONG, (before) => {
    const both = thereAndBack(before);
    return frames === undefined ? both : cycled(both, frames);
  });
}

/** A block from its end to its beginning. */
export const reverseBlock = (context: EditContext, block: Block): Outcome<Edit> => repattern(context, block, 'Reverse', reversed);

/** A block staggered: each drawing followed by the one after next. */
export function staggerBlock(context: EditContext, block: Block): Outcome<Edit> {
  const enough = levelsOfBlock(context.shot, block).some(
    (level) => sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1).length >= 3,
  );
  if (!enough) return refused('A stagger takes at least three exposures: 1 2 3 becomes 1 3.');
  return repattern(context, block, 'Stagger', staggered);
}

/**
 * A block of exposures to another start frame on its own levels: over what is there, leaving blank
 * behind; or pushed in between, closing up where it was.
 */
export function moveBlock(context: EditContext, block: Block, toFrame: number): Outcome<Edit> {
  const frames = block.toFrame + 1 - block.fromFrame;
  const { shot, firstNumber, following } = context;
  if (toFrame < 0 || toFrame >= shot.frames) return refused(`Frame ${toFrame + firstNumber} is outside shot ${shot.code}.`);
  if (toFrame === block.fromFrame) return refused('It is there already.');
  const steps = levelsOfBlock(shot, block).flatMap((level): Step[] => {
    const before = sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1);
    if (before.every((run) => run.drawing === null)) return [];
    const at = { type: 'replaceRuns' as const, shotId: shot.id, levelId: level.id };
    if (following === 'overwrite')
      return [
        { ...at, startFrame: block.fromFrame, removedFrames: frames, runs: [{ drawing: null, frames }] },
        { ...at, startFrame: toFrame, removedFrames: frames, runs: before },
      ];
    return [
      { ...at, startFrame: block.fromFrame, removedFrames: frames, runs: [] },
      { ...at, startFrame: toFrame, removedFrames: 0, runs: before },
    ];
  });
  if (steps.length === 0) return refused('There is no exposure here to move.');
  const where = framesInWords(toFrame, toFrame + frames - 1, firstNumber);
  return tellingEdit(
    context,
    steps,
    'Move exposures',
    `Move to ${where}, ${following === 'push' ? 'pushing what is there down' : 'over what is there'}`,
  );
}
