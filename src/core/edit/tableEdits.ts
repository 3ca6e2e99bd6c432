import { type Drawing, type DrawingRole, type Exposure, type Level, newLevel, type SheetNote } from '@/core/document/model';
import { addDrawings } from '@/core/edit/blockEdits';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
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

/** A column as a level takes it: its exposures, the drawings it lacks, and the roles that change. */
type ColumnResult = {
  readonly runs: readonly Exposure[];
  readonly added: readonly Drawing[];
  readonly roles: ReadonlyMap<string, DrawingRole>;
};

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
  return done({ runs: tidyRuns(runs), added, roles });
}

function levelSteps(context: EditContext, level: Level, { runs, added, roles }: ColumnResult): readonly Step[] {
  const at = { shotId: context.shot.id, levelId: level.id };
  const exposed: readonly Step[] = sameRuns(level.exposures, runs)
    ? []
    : [{ type: 'replaceRuns', ...at, startFrame: 0, removedFrames: framesOfRuns(level.exposures), runs }];
  const described = [...roles].map(([drawingId, role]): Step => ({ type: 'describeDrawing', ...at, drawingId, role }));
  return [...addDrawings(context, level, added), ...described, ...exposed];
}

const sameNotes = (a: readonly SheetNote[], b: readonly SheetNote[]) => {
  const text = (notes: readonly SheetNote[]) => JSON.stringify(notes.map(({ frame, kind, words }) => [frame, kind, words]).toSorted());
  return text(a) === text(b);
};

/** Spaces of any kind at the ends of a name, or several in it, are easily lost on the way through a spreadsheet. */
const plainName = (name: string) => name.trim().replace(/\s+/gu, ' ');

/** The level a column is of: by its very name, else by its name apart from spaces; -1 when there is none. */
function placeOf(levels: readonly Level[], { name, isGuide }: WrittenColumn): number {
  const alike = (same: (own: string) => boolean) => levels.findIndex((level) => same(level.name) && (level.kind === 'guide') === isGuide);
  const exact = alike((own) => own === name);
  return exact >= 0 ? exact : alike((own) => plainName(own) === plainName(name));
}

/** Takes a written sheet for a shot's own; columns find their levels by name, the first of a name the first. Levels without a column stay as they are. */
export function takeTable(context: EditContext, table: SheetTable, choices: TableChoices): Outcome<Edit> {
  const { shot, newId } = context;
  const free = [...sheetColumns(shot)];
  const steps: Step[] = [];
  const told: string[] = [];
  let levels = 0;
  // Levels from the lowest, as they lie once those before are added.
  const order = shot.levels.map((level) => level.id);
  let left: string | null = null;
  const hasRoles = table.columns.some((column) => column.runs.some((run) => run.role !== null));
  for (const column of table.columns) {
    const index = placeOf(free, column);
    const known = index < 0 ? undefined : free.splice(index, 1)[0];
    if (!known && choices.unknownColumns === 'refuse') {
      return refused(
        `Row 1, column ${column.place}: shot ${shot.code} has no level “${column.name}”${column.isGuide ? ' that is a guide' : ''}. Choose to add levels that are missing, or correct the name.`,
      );
    }
    const level = known ?? newLevel(newId(), column.name, column.isGuide ? 'guide' : 'animated');
    const landed = land(level, column, choices, hasRoles, newId);
    if (!landed.ok) return landed;
    if (known) steps.push(...levelSteps(context, known, landed.value));
    else {
      // The sheet shows the levels in front first: a new one lies right behind the column before it, the first one in front.
      const before = left === null ? order.length : order.indexOf(left);
      steps.push({
        type: 'addLevel',
        shotId: shot.id,
        level: { ...level, drawings: landed.value.added, exposures: landed.value.runs },
        index: before,
      });
      order.splice(before, 0, level.id);
      levels++;
    }
    left = level.id;
  }
  if (levels > 0) told.push(plural(levels, 'new level'));
  if (choices.length === 'follows' && table.frames !== shot.frames) {
    const length = checkLength(table.frames);
    if (!length.ok) return length;
    steps.push({ type: 'setShotLength', shotId: shot.id, frames: table.frames });
    told.push(`the shot goes from ${shot.frames} to ${plural(table.frames, 'frame')}`);
  }
  if (table.notes && !sameNotes(table.notes, shot.notes)) {
    steps.push({ type: 'setNotes', shotId: shot.id, notes: table.notes });
    told.push(plural(table.notes.length, 'note'));
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
