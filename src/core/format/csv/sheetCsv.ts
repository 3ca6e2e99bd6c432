import Papa from 'papaparse';
import { type DrawingRole, drawingById, type Level, NOTE_KINDS, type NoteKind, type SheetNote, type Shot } from '@/core/document/model';
import { armoured, bare } from '@/core/format/csv/armour';
import { done, type Outcome, refused } from '@/core/outcome';
import { columnRuns, sheetColumns } from '@/core/sheet/columns';
import { roleWord } from '@/core/sheet/reading';
import { framesOfRuns } from '@/core/sheet/runs';
import { rowOfFrame, type SheetTable, type WrittenColumn, type WrittenRun } from '@/core/sheet/sheetTable';
import { plural } from '@/core/time/counts';

/*
 * The sheet as CSV (RFC 4180: comma, quotes doubled, CR LF). A row of heads, then a row a frame:
 *   frame, one column a level as the sheet stands, notes, words, accents
 * `frame` is the frame's number, with ` past end` for exposures beyond the shot. A level's cell holds the
 * drawing's number, on an exposure's first frame with its role (`1 key`, `4 breakdown`; in-betweens plain),
 * or `.` for blank. Read, an empty cell holds the drawing above, as on paper. A guide's head ends in
 * ` (guide)`; that of a level whose own name ends so, or in ` (level)`, in ` (level)`. Words that a spreadsheet would take for a formula begin with an apostrophe.
 */

/** Most rows a table may have under its heads (inclusive). */
export const MOST_TABLE_ROWS = 100_000;

const NOTE_HEADS: Record<NoteKind, string> = { note: 'notes', word: 'words', accent: 'accents' };
const HEADS = NOTE_KINDS.map((kind) => NOTE_HEADS[kind]);
const GUIDE = ' (guide)';
const LEVEL = ' (level)';
const PAST_END = ' past end';

const cellText = (number: string, role: DrawingRole, isFirst: boolean) =>
  isFirst && role !== 'inbetween' ? `${number} ${roleWord[role]}` : number;

function columnCells(level: Level, rows: number): readonly string[] {
  return columnRuns(level, rows).flatMap((run) => {
    const drawing = drawingById(level, run.drawing);
    return Array.from({ length: run.endFrame - run.startFrame }, (_, frame) =>
      drawing ? cellText(drawing.number, drawing.role, frame === 0) : '.',
    );
  });
}

const headOf = ({ name, kind }: Level): string => {
  if (kind === 'guide') return name + GUIDE;
  return name.endsWith(GUIDE) || name.endsWith(LEVEL) ? name + LEVEL : name;
};

/** A shot's sheet as CSV; `startFrame` is what its first frame is called. */
export function writeSheetCsv(shot: Shot, startFrame: number): string {
  const columns = sheetColumns(shot);
  const rows = Math.max(shot.frames, ...columns.map((level) => framesOfRuns(level.exposures)));
  const cells = columns.map((level) => columnCells(level, rows));
  const notes = new Map(shot.notes.map((note) => [`${note.kind} ${note.frame}`, note.words]));
  const heads = ['frame', ...columns.map((level) => armoured(headOf(level))), ...HEADS];
  const body = Array.from({ length: rows }, (_, frame) => [
    `${frame + startFrame}${frame >= shot.frames ? PAST_END : ''}`,
    ...cells.map((column) => column[frame] ?? '.'),
    ...NOTE_KINDS.map((kind) => armoured(notes.get(`${kind} ${frame}`) ?? '')),
  ]);
  return `${Papa.unparse([heads, ...body], { newline: '\r\n' })}\r\n`;
}

const CELL = /^([\p{L}\p{N}]{1,12})(?:\s+(key|breakdown|in-between))?$/u;
const ROLES: Readonly<Record<string, DrawingRole>> = { key: 'key', breakdown: 'breakdown', 'in-between': 'inbetween' };

const shown = (text: string) => (text.length > 24 ? `${text.slice(0, 24)}…` : text);

type OpenRun = { number: string | null; role: DrawingRole | null; frames: number };

function readColumn(rows: readonly (readonly string[])[], head: string, place: number): Outcome<WrittenColumn> {
  const written = head.trimEnd();
  const isGuide = written.endsWith(GUIDE);
  const isLevel = written.endsWith(LEVEL);
  const name = bare(isGuide || isLevel ? written.slice(0, -GUIDE.length) : head);
  const runs: OpenRun[] = [];
  for (const [frame, row] of rows.entries()) {
    const cell = (row[place - 1] ?? '').trim();
    const match = cell === '' || cell === '.' ? null : CELL.exec(cell);
    if (cell !== '' && cell !== '.' && !match) {
      return refused(
        `Row ${rowOfFrame(frame)}, column ${place} (${name}): “${shown(cell)}” is not a drawing; write its number, as 5 or 5 key, or . for blank.`,
      );
    }
    const last = runs.at(-1);
    const number = cell === '' ? (last?.number ?? null) : (match?.[1] ?? null);
    const role = match?.[2] ? (ROLES[match[2]] ?? null) : null;
    if (last && last.number === number) last.frames++;
    else runs.push({ number, role, frames: 1 });
  }
  return done({ name, isGuide, place, runs: runs as readonly WrittenRun[] });
}

/** How many of the rows are frames of the shot; each counts on from the one above. */
function readFrames(rows: readonly (readonly string[])[], startFrame: number): Outcome<number> {
  let frames = 0;
  for (const [index, row] of rows.entries()) {
    const cell = (row[0] ?? '').trim();
    const past = cell.endsWith(PAST_END);
    const number = (past ? cell.slice(0, -PAST_END.length) : cell).trim();
    if (number !== String(index + startFrame)) {
      return refused(
        `Row ${rowOfFrame(index)}, column 1 (frame): “${shown(cell)}” where frame ${index + startFrame} should be; frames count on by one from ${startFrame}.`,
      );
    }
    if (!past && frames < index)
      return refused(`Row ${rowOfFrame(index)}, column 1 (frame): frame ${number} comes after one past the end.`);
    if (!past) frames = index + 1;
  }
  return frames > 0 ? done(frames) : refused('Every row is past the end: the shot would have no frame.');
}

function readNotes(rows: readonly (readonly string[])[], firstPlace: number): readonly SheetNote[] {
  return rows.flatMap((row, frame) =>
    NOTE_KINDS.flatMap((kind, index) => {
      const words = bare((row[firstPlace - 1 + index] ?? '').trim());
      return words === '' ? [] : [{ frame, kind, words }];
    }),
  );
}

/** Reads a sheet from CSV; `startFrame` is what its first frame is called. Refuses what is no such table, naming row and column. */
export function readSheetCsv(text: string, startFrame: number): Outcome<SheetTable> {
  const whole = text.replace(/^\uFEFF/, '');
  // Some spreadsheets say in a line of its own what parts the columns.
  const told = /^sep=(.)\r?\n/i.exec(whole);
  const bareText = told ? whole.slice(told[0].length) : whole;
  // The first head is always the same, so what follows it is what parts the columns; spreadsheets use semicolons and tabs too.
  const delimiter = /^\s*"?frame"?\s*([,;\t])/i.exec(bareText)?.[1] ?? ',';
  const parsed = Papa.parse<string[]>(bareText, { delimiter, preview: MOST_TABLE_ROWS + 3 });
  const [error] = parsed.errors.filter((each) => each.type === 'Quotes');
  if (error) return refused(`Row ${(error.row ?? 0) + 1}: a quotation mark is not closed, or stands in the middle of a cell.`);
  const table = parsed.data;
  while (table.length > 0 && table.at(-1)?.every((cell) => cell.trim() === '')) table.pop();
  const [heads, ...body] = table;
  if (heads?.[0]?.trim().toLowerCase() !== 'frame' || heads.length < 2) {
    return refused('Row 1: a sheet begins with a row of heads, “frame” and then one column a level.');
  }
  if (body.length > MOST_TABLE_ROWS)
    return refused(`The table has more than ${plural(MOST_TABLE_ROWS, 'row')}: that is the most that is taken at once.`);
  if (body.length === 0) return refused('Row 2: there is no frame in this table.');
  // Empty cells at the end of a row may be left out; more cells than heads are allowed only where they are empty.
  const rows = body.map((row) => [...row.slice(0, heads?.length), ...row.slice(heads?.length).filter((cell) => cell.trim() !== '')]);
  for (const row of rows) while (heads && row.length < heads.length) row.push('');
  const ragged = rows.findIndex((row) => row.length !== heads?.length);
  if (ragged >= 0) {
    return refused(
      `Row ${rowOfFrame(ragged)} has ${plural(rows[ragged]?.length ?? 0, 'column')}, the heads have ${heads.length}: every row has the same columns.`,
    );
  }
  const frames = readFrames(rows, startFrame);
  if (!frames.ok) return frames;
  const hasNotes =
    HEADS.every(
      (head, index) =>
        heads
          .at(index - HEADS.length)
          ?.trim()
          .toLowerCase() === head,
    ) && heads.length > HEADS.length;
  const levelHeads = hasNotes ? heads.slice(1, -HEADS.length) : heads.slice(1);
  const columns: WrittenColumn[] = [];
  for (const [index, head] of levelHeads.entries()) {
    if (head.trim() === '') return refused(`Row 1, column ${index + 2}: a column has no name; write the level's.`);
    const column = readColumn(rows, head, index + 2);
    if (!column.ok) return column;
    columns.push(column.value);
  }
  return done({ frames: frames.value, columns, notes: hasNotes ? readNotes(rows, heads.length - HEADS.length + 1) : null });
}
