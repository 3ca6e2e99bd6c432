import { type Drawing, type DrawingRole, drawingById, type Exposure, type Level, type LevelId, type Shot } from '@/core/document/model';
import { addDrawings, putRuns } from '@/core/edit/blockEdits';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { tellingEdit } from '@/core/edit/telling';
import { done, type Outcome, refused } from '@/core/outcome';
import { type Block, levelsOfBlock } from '@/core/sheet/block';
import type { WrittenExposure } from '@/core/sheet/notation';
import { plannedInbetween } from '@/core/sheet/numbers';
import { nextDrawingNumber } from '@/core/sheet/reading';
import { framesOfRuns, sliceRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';

/** One level of a copied block: its exposures, and the drawings they show as they were when copied. */
type CopiedColumn = { readonly levelId: LevelId; readonly drawings: readonly Drawing[]; readonly runs: readonly Exposure[] };

/** A copied block of the sheet. */
export type CopiedBlock = { readonly frames: number; readonly columns: readonly CopiedColumn[] };

/** Copies a block; refuses one without exposures. */
export function copyBlock(shot: Shot, block: Block): Outcome<CopiedBlock> {
  const columns = levelsOfBlock(shot, block).map((level) => {
    const runs = sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1);
    const ids = new Set(runs.map((run) => run.drawing));
    return { levelId: level.id, runs, drawings: [...ids].flatMap((id) => drawingById(level, id) ?? []) };
  });
  if (columns.every((column) => column.drawings.length === 0)) return refused('There is no exposure here to copy.');
  return done({ frames: block.toFrame + 1 - block.fromFrame, columns });
}

/** What a pasted column becomes on a level: its exposures, the drawings to be added for them, and roles that are written and other than they were. */
type ColumnResult = {
  readonly runs: readonly Exposure[];
  readonly added: readonly Drawing[];
  readonly roles?: ReadonlyMap<string, DrawingRole>;
};

function taking(level: Level) {
  const byNumber = new Map(level.drawings.map((drawing) => [drawing.number, drawing.id]));
  const added: Drawing[] = [];
  const add = (drawing: Drawing) => {
    added.push(drawing);
    byNumber.set(drawing.number, drawing.id);
    return drawing.id;
  };
  return { byNumber, added, add };
}

function landWritten(level: Level, written: readonly WrittenExposure[], newId: () => string): ColumnResult {
  const { byNumber, added, add } = taking(level);
  const roles = new Map<string, DrawingRole>();
  const runs = written.map(({ number, frames, role }) => {
    if (number === null) return { drawing: null, frames };
    const known = byNumber.get(number);
    if (known && role && drawingById(level, known) && drawingById(level, known)?.role !== role) roles.set(known, role);
    return { drawing: known ?? add({ ...plannedInbetween(newId(), number), ...(role ? { role } : {}) }), frames };
  });
  return { runs, added, roles };
}

/*
 * On its own level a copied exposure shows the very drawing it showed. On another level it shows the drawing
 * of the same number there, planned new where there is none; or, with the drawings, independent copies
 * numbered after those the level has.
 */
function landCopied(level: Level, column: CopiedColumn, withDrawings: boolean, newId: () => string): ColumnResult {
  const { byNumber, added, add } = taking(level);
  const landed = new Map<string, string>();
  const land = (drawing: Drawing): string => {
    if (!withDrawings && level.id === column.levelId && level.drawings.some((own) => own.id === drawing.id)) return drawing.id;
    if (!withDrawings) return byNumber.get(drawing.number) ?? add({ ...drawing, id: newId(), picture: null });
    const number = nextDrawingNumber({ ...level, drawings: [...level.drawings, ...added] });
    return add({ ...drawing, id: newId(), number });
  };
  for (const drawing of column.drawings) landed.set(drawing.id, land(drawing));
  return { added, runs: column.runs.map((run) => ({ ...run, drawing: run.drawing === null ? null : (landed.get(run.drawing) ?? null) })) };
}

/** Lands columns one beside the other: from a level on, to the right as the sheet shows them; pushing what is there, or over it. */
function paste<Column>(
  context: EditContext,
  columns: readonly Level[],
  firstLevelId: LevelId,
  atFrame: number,
  pasted: readonly Column[],
  land: (level: Level, column: Column) => ColumnResult,
): Outcome<Edit> {
  const first = columns.findIndex((level) => level.id === firstLevelId);
  const targets = first < 0 ? [] : columns.slice(first, first + pasted.length);
  if (targets.length < pasted.length) {
    const from = columns[first]?.name ?? 'here';
    return refused(
      `What was pasted has ${plural(pasted.length, 'level')}; from ${from} on the sheet has ${targets.length}. Choose a level further left, or add levels.`,
    );
  }
  const steps: Step[] = [];
  let made = 0;
  let frames = 0;
  for (const [index, level] of targets.entries()) {
    const { runs, added, roles = new Map() } = land(level, pasted[index] as Column);
    for (const [drawingId, role] of roles)
      steps.push({ type: 'describeDrawing', shotId: context.shot.id, levelId: level.id, drawingId, role });
    const step = putRuns(context, level, atFrame, context.following === 'push' ? 0 : framesOfRuns(runs), runs);
    if (!step) continue;
    frames = Math.max(frames, framesOfRuns(runs));
    made += added.length;
    steps.push(...addDrawings(context, level, added), step);
  }
  const madeWords = made === 0 ? '' : `, ${plural(made, 'new drawing')}`;
  const way = context.following === 'push' ? 'pushing what is there down' : 'over what is there';
  if (steps.length === 0) return refused('Nothing changes: the same stands here already.');
  return tellingEdit(
    context,
    steps,
    'Paste',
    `Paste on ${framesInWords(atFrame, atFrame + frames - 1, context.firstNumber)}, ${way}${madeWords}`,
  );
}

/** Pastes a copied block from a level and frame on. `columns` are the sheet's levels as they stand. */
export const pasteCopied = (
  context: EditContext,
  columns: readonly Level[],
  levelId: LevelId,
  atFrame: number,
  copied: CopiedBlock,
  withDrawings: boolean,
): Outcome<Edit> =>
  paste(context, columns, levelId, atFrame, copied.columns, (level, column) => landCopied(level, column, withDrawings, context.newId));

/** Pastes exposures that were written down: numbers a level doesn't have become planned drawings. */
export const pasteWritten = (
  context: EditContext,
  columns: readonly Level[],
  levelId: LevelId,
  atFrame: number,
  written: readonly (readonly WrittenExposure[])[],
): Outcome<Edit> => paste(context, columns, levelId, atFrame, written, (level, column) => landWritten(level, column, context.newId));
