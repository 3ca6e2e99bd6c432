import { type Drawing, type DrawingRole, drawingById, type Level } from '@/core/document/model';
import { addDrawings } from '@/core/edit/blockEdits';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { tellingEdit } from '@/core/edit/telling';
import { type Outcome, refused } from '@/core/outcome';
import { type Block, levelsOfBlock } from '@/core/sheet/block';
import { numberAfter, numbersTaken, plannedInbetween } from '@/core/sheet/numbers';
import { roleWord } from '@/core/sheet/reading';
import { runAt, sliceRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';

/** The drawings a block shows on a level, each once, in order. */
export function drawingsInBlock(level: Level, block: Block): readonly Drawing[] {
  const ids = new Set(sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1).map((run) => run.drawing));
  return [...ids].flatMap((id) => drawingById(level, id) ?? []);
}

/** Calls every drawing a block shows a key, a breakdown or an in-between. */
export function setRoles({ shot }: EditContext, block: Block, role: DrawingRole): Outcome<Edit> {
  let shown = 0;
  const steps = levelsOfBlock(shot, block).flatMap((level) =>
    drawingsInBlock(level, block).flatMap((drawing): Step[] => {
      shown++;
      if (drawing.role === role) return [];
      return [{ type: 'describeDrawing', shotId: shot.id, levelId: level.id, drawingId: drawing.id, role }];
    }),
  );
  if (shown === 0) return refused('There is no drawing here.');
  if (steps.length === 0)
    return refused(
      shown === 1 ? `It is ${role === 'inbetween' ? 'an' : 'a'} ${roleWord[role]} already.` : `They are ${roleWord[role]}s already.`,
    );
  return editOf(steps, `${plural(steps.length, 'drawing')}: ${roleWord[role]}`);
}

/** Numbers a level's drawings 1, 2, 3 … in the order they first show; those never exposed come last, in the order they were in. */
export function renumberInOrder({ shot }: EditContext, level: Level): Outcome<Edit> {
  const places = new Map<string, number>();
  for (const run of level.exposures) if (run.drawing !== null && !places.has(run.drawing)) places.set(run.drawing, places.size);
  const place = (drawing: Drawing) => places.get(drawing.id) ?? Number.POSITIVE_INFINITY;
  const ordered = level.drawings.toSorted((a, b) => (place(a) === place(b) ? 0 : place(a) - place(b)));
  const changed = ordered.filter((drawing, index) => drawing.number !== String(index + 1)).length;
  if (changed === 0) return refused(`The drawings of ${level.name} are numbered in order already.`);
  const order = ordered.map((drawing, index) => ({ drawingId: drawing.id, number: String(index + 1) }));
  return editOf(
    [{ type: 'renumberDrawings', shotId: shot.id, levelId: level.id, order }],
    `Renumber ${level.name}`,
    `Renumber ${level.name} in order: ${plural(changed, 'number')} of ${level.drawings.length} ${changed === 1 ? 'changes' : 'change'}`,
  );
}

/** Exposes a drawing that is there already once more: over the frames of a block, on one level. */
export function showAgain(context: EditContext, level: Level, number: string, fromFrame: number, toFrame: number): Outcome<Edit> {
  if (level.kind === 'still') return refused(`${level.name} is a still level: it shows its drawing for the whole shot.`);
  const drawing = level.drawings.find((candidate) => candidate.number === number.trim());
  if (!drawing) return refused(`${level.name} has no drawing ${number.trim() || '(no number)'}.`);
  const words = `Expose ${drawing.number} again`;
  return tellingEdit(
    context,
    [
      {
        type: 'expose',
        shotId: context.shot.id,
        levelId: level.id,
        drawingId: drawing.id,
        startFrame: fromFrame,
        frames: toFrame - fromFrame + 1,
      },
    ],
    words,
    `${words} on ${framesInWords(fromFrame, toFrame, context.firstNumber)}`,
  );
}

/*
 * A new in-between takes the later half of the exposure it is put into; of an odd length the first
 * drawing keeps the longer half.
 */

/** A new planned in-between after the drawing here, numbered after it, in the later half of its exposure. */
export function insertInbetween(context: EditContext, level: Level, frame: number): Outcome<Edit & { startFrame: number }> {
  const run = runAt(level.exposures, frame);
  const drawing = run && drawingById(level, run.drawing);
  if (!run || !drawing)
    return refused(`${level.name} shows no drawing on frame ${frame + context.firstNumber} to put an in-between after.`);
  const frames = run.endFrame - run.startFrame;
  if (frames < 2)
    return refused(`Drawing ${drawing.number} is held for one frame: there is no room for an in-between. Hold it longer first.`);
  const kept = Math.ceil(frames / 2);
  const startFrame = run.startFrame + kept;
  const planned = plannedInbetween(context.newId(), numberAfter(drawing.number, numbersTaken(level)));
  const steps: Step[] = [
    ...addDrawings(context, level, [planned]),
    { type: 'expose', shotId: context.shot.id, levelId: level.id, drawingId: planned.id, startFrame, frames: frames - kept },
  ];
  const words = `In-between ${planned.number}`;
  const edit = tellingEdit(
    context,
    steps,
    words,
    `New in-between ${planned.number} on ${framesInWords(startFrame, run.endFrame - 1, context.firstNumber)}`,
  );
  return edit.ok ? { ok: true, value: { ...edit.value, startFrame } } : edit;
}
