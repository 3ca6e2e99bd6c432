import { drawingById, type Exposure, type Level, type SheetNote } from '@/core/document/model';
import type { EditContext } from '@/core/edit/edit';
import type { RunPart } from '@/core/edit/runParts';
import { type ColumnMatch, differenceId, matchTable, type NoteDifference, type TableChoices } from '@/core/edit/tableEdits';
import { done, type Outcome } from '@/core/outcome';
import { notationOf } from '@/core/sheet/notation';
import { roleWord } from '@/core/sheet/reading';
import { framesOfRuns } from '@/core/sheet/runs';
import type { SheetTable } from '@/core/sheet/sheetTable';
import { plural } from '@/core/time/counts';
import { drawingWords } from '@/core/words';

/** One thing in which a written sheet differs from a shot's own, in words; `takeTable` takes those that are chosen. */
export type TableDifference = { readonly id: string; readonly words: string };

/** More exposures than these are counted rather than written out. */
const MOST_WRITTEN = 6;

/** What differs in the exposures of a level, whose drawings are those it has and those that would be planned. */
function partWords(level: Level, { before, after, startFrame, startFrameAfter }: RunPart, firstNumber: number): string {
  const written = (runs: readonly Exposure[]) =>
    runs.length > MOST_WRITTEN ? plural(runs.length, 'exposure') : notationOf(level, runs) || 'nothing';
  const [own, now] = [before[0], after[0]];
  if (before.length === 1 && after.length === 1 && own && now && own.drawing === now.drawing) {
    const what = own.drawing === null ? 'the blank' : drawingById(level, own.drawing)?.number;
    return `${level.name}: ${what} from frame ${startFrame + firstNumber} is held ${plural(now.frames, 'frame')} instead of ${own.frames}`;
  }
  if (after.length === 0) return `${level.name}: ${written(before)} from frame ${startFrame + firstNumber} is gone`;
  if (before.length === 0) return `${level.name}: ${written(after)} is new on frame ${startFrameAfter + firstNumber}`;
  return `${level.name}: ${written(before)} from frame ${startFrame + firstNumber} becomes ${written(after)}`;
}

function columnDifferences(
  { level, isNew, place, parts, runs, added, roles }: ColumnMatch,
  firstNumber: number,
): readonly TableDifference[] {
  if (isNew) {
    const drawings = added.length > 0 ? `, with ${plural(added.length, 'planned drawing')}` : '';
    return [{ id: differenceId.level(place), words: `${level.name} is a new level of ${plural(framesOfRuns(runs), 'frame')}${drawings}` }];
  }
  const all = { ...level, drawings: [...level.drawings, ...added] };
  const planned = new Map(added.map(({ id, number }) => [id, number]));
  const exposed = parts.flatMap((part, at): readonly TableDifference[] => {
    if (part.isSame) return [];
    const numbers = [...new Set(part.after.flatMap(({ drawing }) => (drawing === null ? [] : (planned.get(drawing) ?? []))))];
    const plans = numbers.length > 0 ? `; ${numbers.join(', ')} ${numbers.length === 1 ? 'is' : 'are'} planned` : '';
    return [{ id: differenceId.part(level, at), words: `${partWords(all, part, firstNumber)}${plans}` }];
  });
  const described = [...roles].map(([drawingId, role]): TableDifference => {
    const drawing = drawingById(level, drawingId);
    if (!drawing) throw new Error(`Level ${level.id} has no drawing ${drawingId}.`);
    return {
      id: differenceId.role(drawingId),
      words: `${drawingWords(level.name, drawing.number)}: ${roleWord[role]} instead of ${roleWord[drawing.role]}`,
    };
  });
  return [...exposed, ...described];
}

const KINDS: Readonly<Record<SheetNote['kind'], string>> = { note: 'note', word: 'word', accent: 'accent' };

function noteWords({ before, after }: NoteDifference, firstNumber: number): string {
  const note = (before ?? after) as SheetNote;
  const where = `The ${KINDS[note.kind]} “${note.words}” on frame ${note.frame + firstNumber}`;
  if (!after) return `${where} is gone`;
  return before ? `${where} becomes “${after.words}”` : `${where} is new`;
}

/** Everything in which a written sheet differs from a shot's own; refused as the table itself is. */
export function tableDifferences(context: EditContext, table: SheetTable, choices: TableChoices): Outcome<readonly TableDifference[]> {
  const found = matchTable(context, table, choices);
  if (!found.ok) return found;
  const { columns, length, notes } = found.value;
  const { shot, firstNumber } = context;
  return done([
    ...(length === null
      ? []
      : [{ id: differenceId.length, words: `Shot ${shot.code} has ${plural(length, 'frame')} instead of ${shot.frames}` }]),
    ...columns.flatMap((column) => columnDifferences(column, firstNumber)),
    ...notes.map((each, index) => ({ id: differenceId.note(index), words: noteWords(each, firstNumber) })),
  ]);
}
