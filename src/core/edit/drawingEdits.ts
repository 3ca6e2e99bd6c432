import type { Drawing, DrawingRole, Level, Shot } from '@/core/document/model';
import { drawingById, levelById } from '@/core/document/model';
import { moveBlock } from '@/core/edit/blockEdits';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { RestRule, Step } from '@/core/edit/step';
import { consequenceWords, shotAfter, tellingEdit } from '@/core/edit/telling';
import { done, type Outcome, refused } from '@/core/outcome';
import { drawingShownAt, exposuresOf, neighbourDrawing, nextDrawingNumber } from '@/core/sheet/reading';
import { framesOfRuns, runAt } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';

/** Where a new drawing goes: from `startFrame` for `frames`, over what is there or pushing it. */
type Place = { readonly startFrame: number; readonly frames: number; readonly following: RestRule };

const DEFAULT_FRAMES = 2;

/*
 * Where a new drawing lands, so that no drawing loses its last frame unasked:
 * on a blank, here, as long as the drawing before it is held for, but not over the next one nor past the end;
 * inside an exposure, from here to that exposure's end (the drawing shown keeps what it had before);
 * on the first frame of an exposure, after it: over a blank if there is one, else pushing what follows.
 */
function placeForNew(shot: Shot, level: Level, frame: number): Place {
  const run = runAt(level.exposures, frame);
  const total = framesOfRuns(level.exposures);
  const usual = (before: number) => {
    const previous = neighbourDrawing(level, before, 'before');
    return previous ? previous.endFrame - previous.startFrame : DEFAULT_FRAMES;
  };
  if (!run || run.drawing === null) {
    const roomEnd = run ? run.endFrame : Math.max(shot.frames, frame + 1);
    return { startFrame: frame, frames: Math.max(1, Math.min(usual(frame), roomEnd - frame)), following: 'overwrite' };
  }
  if (frame > run.startFrame) return { startFrame: frame, frames: run.endFrame - frame, following: 'overwrite' };
  const ownFrames = run.endFrame - run.startFrame;
  const after = runAt(level.exposures, run.endFrame);
  if (after && after.drawing !== null) return { startFrame: run.endFrame, frames: ownFrames, following: 'push' };
  const roomEnd = after ? after.endFrame : Math.max(shot.frames, total + 1);
  return { startFrame: run.endFrame, frames: Math.max(1, Math.min(ownFrames, roomEnd - run.endFrame)), following: 'overwrite' };
}

function exposeSteps({ shot, firstNumber }: EditContext, level: Level, place: Place, drawingId: string): Outcome<readonly Step[]> {
  const at = { shotId: shot.id, levelId: level.id };
  if (place.startFrame >= shot.frames) {
    return refused(
      `There is no room after frame ${shot.frames - 1 + firstNumber} of shot ${shot.code}: make the shot longer, or shorten an exposure first.`,
    );
  }
  if (place.following === 'push') {
    return done([
      { type: 'replaceRuns', ...at, startFrame: place.startFrame, removedFrames: 0, runs: [{ drawing: drawingId, frames: place.frames }] },
    ]);
  }
  return done([{ type: 'expose', ...at, drawingId, startFrame: place.startFrame, frames: place.frames }]);
}

function landing(place: Place, firstNumber: number): string {
  const where = `on ${framesInWords(place.startFrame, place.startFrame + place.frames - 1, firstNumber)}`;
  return place.following === 'push' ? `${where}, pushing what follows by ${place.frames}` : where;
}

/** An edit with the frame its drawing lands on. */
const landed = (edit: Outcome<Edit>, { startFrame }: Place): Outcome<Edit & { startFrame: number }> =>
  edit.ok ? done({ ...edit.value, startFrame }) : edit;

function checkCanHold(level: Level): Outcome<Level> {
  if (level.kind === 'still' && level.drawings.length > 0)
    return refused(`${level.name} is a still level and has its one drawing already.`);
  return done(level);
}

/** A new drawing at a frame of a level: numbered next, planned until something is drawn on it. */
export function newDrawingHere(
  context: EditContext,
  level: Level,
  frame: number,
  role: DrawingRole = 'inbetween',
): Outcome<Edit & { startFrame: number }> {
  const { shot, newId } = context;
  const canHold = checkCanHold(level);
  if (!canHold.ok) return canHold;
  const drawing: Drawing = { id: newId(), number: nextDrawingNumber(level), role, picture: null };
  const add: Step = { type: 'addDrawing', shotId: shot.id, levelId: level.id, drawing, index: level.drawings.length };
  if (level.kind === 'still') return done({ step: add, says: `New drawing ${drawing.number} for the whole shot`, startFrame: frame });
  const place = placeForNew(shot, level, frame);
  const exposing = exposeSteps(context, level, place, drawing.id);
  if (!exposing.ok) return exposing;
  const words = `New drawing ${drawing.number}`;
  return landed(tellingEdit(context, [add, ...exposing.value], words, `${words} ${landing(place, context.firstNumber)}`), place);
}

/** The drawing that "the previous" means at a frame: the one showing here, else the one before. */
export function previousDrawing(level: Level, frame: number): Drawing | undefined {
  return drawingShownAt(level, frame) ?? drawingById(level, neighbourDrawing(level, frame + 1, 'before')?.drawing ?? null);
}

const copyStep = ({ shot }: EditContext, level: Level, source: Drawing, copyId: string, number: string): Step => ({
  type: 'copyDrawing',
  shotId: shot.id,
  levelId: level.id,
  sourceId: source.id,
  copyId,
  number,
  index: level.drawings.length,
});

/** An independent copy of any drawing of a level, placed at a frame as a new drawing is. */
export function copyDrawingHere(
  context: EditContext,
  level: Level,
  source: Drawing,
  frame: number,
): Outcome<Edit & { startFrame: number }> {
  const { shot, newId } = context;
  if (level.kind === 'still') return refused(`${level.name} is a still level: it has one drawing for the whole shot.`);
  const copyId = newId();
  const number = nextDrawingNumber(level);
  const place = placeForNew(shot, level, frame);
  const exposing = exposeSteps(context, level, place, copyId);
  if (!exposing.ok) return exposing;
  const words = `Copy ${source.number} as drawing ${number}`;
  const steps = [copyStep(context, level, source, copyId, number), ...exposing.value];
  return landed(tellingEdit(context, steps, words, `${words} ${landing(place, context.firstNumber)}`), place);
}

/** An independent copy of the drawing here, or of the one before where it is blank, placed as a new drawing is. */
export function copyPreviousHere(context: EditContext, level: Level, frame: number): Outcome<Edit & { startFrame: number }> {
  if (level.kind === 'still') return refused(`${level.name} is a still level: it has one drawing for the whole shot.`);
  const source = previousDrawing(level, frame);
  if (!source) return refused(`${level.name} has no drawing on or before frame ${frame + context.firstNumber} to copy.`);
  return copyDrawingHere(context, level, source, frame);
}

/** The exposure here shows a copy of its drawing from now on, so that drawing on it changes no other place. */
export function ownCopyHere(context: EditContext, level: Level, frame: number): Outcome<Edit> {
  const run = level.kind === 'still' ? undefined : runAt(level.exposures, frame);
  const source = run && drawingById(level, run.drawing);
  if (!run || !source) return refused(`${level.name} shows no drawing on frame ${frame + context.firstNumber}.`);
  if (exposuresOf(level, source.id).length < 2)
    return refused(`Drawing ${source.number} is exposed in this one place only: it is independent already.`);
  const copyId = context.newId();
  const number = nextDrawingNumber(level);
  const words = `Make ${source.number} independent as drawing ${number}`;
  return done({
    says: `${words} on ${framesInWords(run.startFrame, run.endFrame - 1, context.firstNumber)}`,
    step: {
      type: 'together',
      words,
      steps: [
        copyStep(context, level, source, copyId, number),
        {
          type: 'expose',
          shotId: context.shot.id,
          levelId: level.id,
          drawingId: copyId,
          startFrame: run.startFrame,
          frames: run.endFrame - run.startFrame,
        },
      ],
    },
  });
}

/** Takes an exposure to another frame of its level, as a block goes: over what is there, or pushed in between. */
export function moveExposure(context: EditContext, level: Level, fromFrame: number, toFrame: number): Outcome<Edit> {
  const run = runAt(level.exposures, fromFrame);
  if (!run || run.drawing === null) return refused(`${level.name} has no exposure on frame ${fromFrame + context.firstNumber} to move.`);
  const block = { fromFrame: run.startFrame, toFrame: run.endFrame - 1, levelIds: [level.id] };
  const moved = moveBlock(context, block, toFrame);
  if (!moved.ok || moved.value.step.type !== 'together') return moved;
  const words = `Move ${drawingById(level, run.drawing)?.number}`;
  return done({ step: { ...moved.value.step, words }, says: moved.value.says.replace(/^Move/, words) });
}

/** Lets the drawing here stand over the next exposure too; a drawing that is exposed nowhere any more stays on its level. */
export function joinNext(context: EditContext, level: Level, frame: number): Outcome<Edit> {
  const run = level.kind === 'still' ? undefined : runAt(level.exposures, frame);
  const drawing = run && drawingById(level, run.drawing);
  if (!run || !drawing) return refused(`${level.name} shows no drawing on frame ${frame + context.firstNumber} to join with the next.`);
  const next = runAt(level.exposures, run.endFrame);
  if (!next) return refused(`Nothing follows drawing ${drawing.number} that it could be joined with.`);
  const other = drawingById(level, next.drawing);
  const step: Step = {
    type: 'expose',
    shotId: context.shot.id,
    levelId: level.id,
    drawingId: drawing.id,
    startFrame: run.startFrame,
    frames: next.endFrame - run.startFrame,
  };
  const after = shotAfter(context, [step]);
  if (!after.ok) return after;
  // What comes after may be the same drawing once more, and then is one exposure with it.
  const joined = runAt(levelById(after.value, level.id)?.exposures ?? [], run.startFrame);
  const frames = joined ? joined.endFrame - joined.startFrame : 0;
  const says = `Join ${drawing.number} with ${other ? other.number : 'the blank after it'}: ${drawing.number} is held for ${plural(frames, 'frame')}`;
  return done({ step, says: says + consequenceWords(context, after.value, []) });
}

/** Deleting a drawing, with everything that goes named beforehand. */
export function deleteDrawing(shot: Shot, level: Level, drawing: Drawing): Edit {
  const exposures = exposuresOf(level, drawing.id).length;
  const with_ = exposures === 0 ? '' : ` and its ${plural(exposures, 'exposure')}`;
  return {
    step: { type: 'deleteDrawing', shotId: shot.id, levelId: level.id, drawingId: drawing.id },
    says: `Delete drawing ${drawing.number}${with_}`,
  };
}
