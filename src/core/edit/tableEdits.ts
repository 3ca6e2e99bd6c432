import { type Drawing, type DrawingRole, type Exposure, type Level, newLevel, type SheetNote } from '@/core/document/model';
import { addDrawings } from '@/core/edit/blockEdits';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import { type RunPart, runParts } from '@/core/edit/runParts';
import type { Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import { sheetColumns } from '@/core/sheet/columns';
import { framesOfRuns, sameRuns, tidyRuns } from '@/core/sheet/runs';
import { rowOfFrame, type SheetTable, type WrittenColumn } from '@/core/sheet/sheetTable';
import { checkLength, plural } from '@/core/time/counts';

/** What to do where a table says something the shot doesn't have, and whether the shot gets as long as the table. */
export type TableChoices = {
  readonly missingDrawings: 'refuse' | 'plan';
  readonly unknownColumns: 'refuse' | 'add';
  readonly length: 'follows' | 'stays';
};

/** A column as a level takes it: its exposures held against the level's own, the drawings it lacks, and the roles that change. */
type ColumnResult = {
  readonly parts: readonly RunPart[];
  readonly runs: readonly Exposure[];
  readonly added: readonly Drawing[];
  readonly roles: ReadonlyMap<string, DrawingRole>;
};

/** A column (its place in the table from 1) with its level, which may be new. */
export type ColumnMatch = ColumnResult & { readonly level: Level; readonly isNew: boolean; readonly place: number };

/** A note that is gone, new, or has become another. */
export type NoteDifference = { readonly before: SheetNote | null; readonly after: SheetNote | null };

/** A table held against a shot. `length` is the shot's new one, null where it stays. */
export type TableMatch = {
  readonly columns: readonly ColumnMatch[];
  readonly length: number | null;
  readonly notes: readonly NoteDifference[];
};

/** What a difference is called, so that it can be taken or left. */
export const differenceId = {
  part: (level: Level, part: number) => `part ${level.id} ${part}`,
  role: (drawingId: string) => `role ${drawingId}`,
  level: (place: number) => `level ${place}`,
  note: (index: number) => `note ${index}`,
  length: 'length',
} as const;

function land(level: Level, column: WrittenColumn, choices: TableChoices, hasRoles: boolean, newId: () => string): Outcome<ColumnResult> {
  const byNumber = new Map(level.drawings.map((drawing) => [drawing.number, drawing]));
  const added: Drawing[] = [];
  const roles = new Map<string, DrawingRole>();
  const seen = new Set<string>();
  const runs: Exposure[] = [];
  let frame = 0;
  for (const { number, role, frames } of column.runs) {
    let drawing = number === null ? undefined : byNumber.get(number);
    if (number !== null && !drawing) {
      if (choices.missingDrawings !== 'plan') {
        return refused(
          `Row ${rowOfFrame(frame)}, column ${column.place}: ${level.name} has no drawing ${number}. Choose to plan drawings that are missing, or correct the number.`,
        );
      }
      drawing = { id: newId(), number, role: role ?? 'inbetween', picture: null };
      byNumber.set(number, drawing);
      added.push(drawing);
      seen.add(drawing.id);
    }
    // The role of a drawing is what stands at its first exposure; a plain number there is an in-between, where roles are written at all.
    if (drawing && hasRoles && !seen.has(drawing.id)) {
      seen.add(drawing.id);
      const written = role ?? 'inbetween';
      if (written !== drawing.role) roles.set(drawing.id, written);
    }
    runs.push({ drawing: drawing?.id ?? null, frames });
    frame += frames;
  }
  const tidy = tidyRuns(runs);
  return done({ parts: runParts(level.exposures, tidy), runs: tidy, added, roles });
}

type IsTaken = (id: string) => boolean;

/** What is taken of a column, on the level it is of. */
function levelSteps(context: EditContext, { level, parts, added, roles }: ColumnMatch, isTaken: IsTaken): readonly Step[] {
  const at = { shotId: context.shot.id, levelId: level.id };
  const runs = tidyRuns(parts.flatMap((part, index) => (isTaken(differenceId.part(level, index)) ? part.after : part.before)));
  const shown = new Set(runs.map(({ drawing }) => drawing));
  const exposed: readonly Step[] = sameRuns(level.exposures, runs)
    ? []
    : [{ type: 'replaceRuns', ...at, startFrame: 0, removedFrames: framesOfRuns(level.exposures), runs }];
  const described = [...roles].flatMap(([drawingId, role]): readonly Step[] =>
    isTaken(differenceId.role(drawingId)) ? [{ type: 'describeDrawing', ...at, drawingId, role }] : [],
  );
  // A drawing is planned for what shows it, and for nothing else.
  return [
    ...addDrawings(
      context,
      level,
      added.filter(({ id }) => shown.has(id)),
    ),
    ...described,
    ...exposed,
  ];
}

const noteText = ({ frame, kind, words }: SheetNote) => JSON.stringify([frame, kind, words]);

/** Notes of a shot and of a table: what is in one alone, those of one kind on one frame together. */
function noteDifferences(before: readonly SheetNote[], after: readonly SheetNote[]): readonly NoteDifference[] {
  const left = [...after];
  const gone = before.filter((note) => {
    const same = left.findIndex((other) => noteText(other) === noteText(note));
    if (same >= 0) left.splice(same, 1);
    return same < 0;
  });
  const changed = gone.map((note): NoteDifference => {
    const other = left.findIndex(({ frame, kind }) => frame === note.frame && kind === note.kind);
    return { before: note, after: other < 0 ? null : (left.splice(other, 1)[0] ?? null) };
  });
  return [...changed, ...left.map((note): NoteDifference => ({ before: null, after: note }))];
}

/** A shot's notes once some differences are taken, in order of their frames. */
function notesAfter(notes: readonly SheetNote[], differences: readonly NoteDifference[]): readonly SheetNote[] {
  const becomes = new Map(differences.flatMap(({ before, after }) => (before ? [[before, after] as const] : [])));
  const kept = notes.flatMap((note) => (becomes.has(note) ? (becomes.get(note) ?? []) : [note]));
  return [...kept, ...differences.flatMap(({ before, after }) => (!before && after ? [after] : []))].toSorted((a, b) => a.frame - b.frame);
}

/** Spaces of any kind at the ends of a name, or several in it, are easily lost on the way through a spreadsheet. */
const plainName = (name: string) => name.trim().replace(/\s+/gu, ' ');

/** The level a column is of: by its very name, else by its name apart from spaces; -1 when there is none. */
function placeOf(levels: readonly Level[], { name, isGuide }: WrittenColumn): number {
  const alike = (same: (own: string) => boolean) => levels.findIndex((level) => same(level.name) && (level.kind === 'guide') === isGuide);
  const exact = alike((own) => own === name);
  return exact >= 0 ? exact : alike((own) => plainName(own) === plainName(name));
}

/**
 * A written sheet held against a shot's own; columns find their levels by name, the first of a name the first. Levels without a
 * column stay as they are. Refused where it says something the shot doesn't have, unless the choices say what becomes of that.
 */
export function matchTable(context: EditContext, table: SheetTable, choices: TableChoices): Outcome<TableMatch> {
  const { shot, newId } = context;
  const free = [...sheetColumns(shot)];
  const columns: ColumnMatch[] = [];
  const hasRoles = table.columns.some((column) => column.runs.some((run) => run.role !== null));
  for (const column of table.columns) {
    const found = placeOf(free, column);
    const known = found < 0 ? undefined : free.splice(found, 1)[0];
    if (!known && choices.unknownColumns === 'refuse') {
      return refused(
        `Row 1, column ${column.place}: shot ${shot.code} has no level “${column.name}”${column.isGuide ? ' that is a guide' : ''}. Choose to add levels that are missing, or correct the name.`,
      );
    }
    const level = known ?? newLevel(newId(), column.name, column.isGuide ? 'guide' : 'animated');
    const landed = land(level, column, choices, hasRoles, newId);
    if (!landed.ok) return landed;
    columns.push({ ...landed.value, level, isNew: !known, place: column.place });
  }
  const isLonger = choices.length === 'follows' && table.frames !== shot.frames;
  if (isLonger) {
    const length = checkLength(table.frames);
    if (!length.ok) return length;
  }
  return done({ columns, length: isLonger ? table.frames : null, notes: table.notes ? noteDifferences(shot.notes, table.notes) : [] });
}

/** Takes a written sheet for a shot's own, or those of its differences that are taken (`tableDifferences` has their ids). */
export function takeTable(context: EditContext, table: SheetTable, choices: TableChoices, isTaken: IsTaken = () => true): Outcome<Edit> {
  const { shot } = context;
  const found = matchTable(context, table, choices);
  if (!found.ok) return found;
  const { columns, length, notes } = found.value;
  const steps: Step[] = [];
  const told: string[] = [];
  let levels = 0;
  // Levels from the lowest, as they lie once those before are added.
  const order = shot.levels.map((level) => level.id);
  let left: string | null = null;
  for (const column of columns) {
    const { level, isNew, place, added, runs } = column;
    if (!isNew) steps.push(...levelSteps(context, column, isTaken));
    else if (isTaken(differenceId.level(place))) {
      // The sheet shows the levels in front first: a new one lies right behind the column before it, the first one in front.
      const index: number = left === null ? order.length : order.indexOf(left);
      steps.push({ type: 'addLevel', shotId: shot.id, level: { ...level, drawings: added, exposures: runs }, index });
      order.splice(index, 0, level.id);
      levels++;
    } else continue;
    left = level.id;
  }
  if (levels > 0) told.push(plural(levels, 'new level'));
  if (length !== null && isTaken(differenceId.length)) {
    steps.push({ type: 'setShotLength', shotId: shot.id, frames: length });
    told.push(`the shot goes from ${shot.frames} to ${plural(length, 'frame')}`);
  }
  const taken = notes.filter((_, index) => isTaken(differenceId.note(index)));
  if (taken.length > 0) {
    const after = notesAfter(shot.notes, taken);
    steps.push({ type: 'setNotes', shotId: shot.id, notes: after });
    told.push(plural(after.length, 'note'));
  }
  const planned = steps.reduce(
    (sum, step) => sum + (step.type === 'addDrawing' ? 1 : step.type === 'addLevel' ? step.level.drawings.length : 0),
    0,
  );
  if (planned > 0) told.push(plural(planned, 'new planned drawing'));
  if (steps.length === 0) return refused('Nothing changes: the sheet says the same already.');
  return editOf(
    steps,
    'Bring in a sheet',
    `Take ${plural(table.columns.length, 'column')} of ${plural(table.frames, 'frame')}${told.length > 0 ? `: ${told.join(', ')}` : ''}`,
  );
}
