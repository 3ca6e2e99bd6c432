import { type DrawingRole, drawingById, type Shot } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';
import { type Block, levelsOfBlock } from '@/core/sheet/block';
import { parseNotation, type WrittenExposure } from '@/core/sheet/notation';
import { sliceRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/*
 * A block of the sheet as text, for spreadsheets and mails. Written: a row a frame, a column a level,
 * parted by tabs, the drawing's number on every frame and `.` for blank. Read: the same, or with an empty
 * cell where the drawing above goes on (as on paper sheets), a number with its role (`1 key`), as in the sheet's CSV,
 * or one level a line in the notation `5*2 6 .*3`.
 */

/** Most frames a pasted block may have (inclusive). */
export const MOST_PASTED_ROWS = 100_000;

/** Most levels a pasted block may have (inclusive). */
export const MOST_PASTED_COLUMNS = 200;

/** The block as text: a row a frame, a column a level. */
export function blockText(shot: Shot, block: Block): string {
  const columns = levelsOfBlock(shot, block).map((level) =>
    sliceRuns(level.exposures, block.fromFrame, block.toFrame + 1).flatMap((run) =>
      Array.from({ length: run.frames }, () => drawingById(level, run.drawing)?.number ?? '.'),
    ),
  );
  const rows = Array.from({ length: block.toFrame + 1 - block.fromFrame }, (_, row) =>
    columns.map((column) => column[row] ?? '.').join('\t'),
  );
  return rows.join('\n');
}

const CELL = /^([\p{L}\p{N}]{1,12})(?:\s+(key|breakdown|in-between))?$/u;
const ROLES: Readonly<Record<string, DrawingRole>> = { key: 'key', breakdown: 'breakdown', 'in-between': 'inbetween' };

/** A cell as spreadsheets hand it over: `""` is an empty one. */
const cellOf = (text: string) => (text.trim() === '""' ? '' : text.trim());

const isCell = (text: string) => text === '' || text === '.' || CELL.test(text);

function readLines(lines: readonly string[]): Outcome<readonly (readonly WrittenExposure[])[]> {
  const columns: (readonly WrittenExposure[])[] = [];
  for (const [index, line] of lines.entries()) {
    const written = parseNotation(line);
    if (!written.ok) return refused(`Line ${index + 1}: ${written.reason}`);
    columns.push(written.value);
  }
  return done(columns);
}

type OpenExposure = { number: string | null; frames: number; role?: DrawingRole };

function readTable(rows: readonly (readonly string[])[]): Outcome<readonly (readonly WrittenExposure[])[]> {
  const width = Math.max(...rows.map((row) => row.length));
  const columns: OpenExposure[][] = Array.from({ length: width }, () => []);
  for (const [rowIndex, row] of rows.entries()) {
    if (row.length !== width) {
      return refused(
        `Row ${rowIndex + 1} has ${plural(row.length, 'column')} and another has ${width}: a block has the same columns in every row.`,
      );
    }
    for (const [columnIndex, cell] of row.entries()) {
      const text = cellOf(cell);
      const column = columns[columnIndex] as OpenExposure[];
      const last = column.at(-1);
      const match = CELL.exec(text);
      const number = text === '.' ? null : text === '' ? (last?.number ?? null) : (match?.[1] ?? null);
      const role = ROLES[match?.[2] ?? ''];
      if (!isCell(text)) {
        const shown = text.length > 20 ? `${text.slice(0, 20)}…` : text;
        return refused(
          `Row ${rowIndex + 1}, column ${columnIndex + 1}: “${shown}” is not a drawing’s number; use 1 to 12 letters and digits, . for blank, or leave it empty to hold.`,
        );
      }
      if (last && last.number === number) last.frames++;
      else column.push({ number, frames: 1, ...(role ? { role } : {}) });
    }
  }
  return done(columns);
}

/** Reads pasted text as columns of exposures; refuses what is no block, naming row and column. */
export function parseBlockText(text: string): Outcome<readonly (readonly WrittenExposure[])[]> {
  // Every row ends with a line end, the last one too: an empty row more is one more frame of the drawing above.
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n');
  if (lines.length > MOST_PASTED_ROWS)
    return refused(`What was pasted has ${plural(lines.length, 'row')}; at most ${plural(MOST_PASTED_ROWS, 'row')} can be taken at once.`);
  if (lines.every((line) => line.trim() === ''))
    return refused('There is nothing in what was pasted: copy a block of the sheet, or numbers from a spreadsheet.');
  const isNotation =
    !text.includes('\t') &&
    !lines.every((line) => isCell(cellOf(line))) &&
    (text.includes('*') || lines.some((line) => /\S\s+\S/.test(line)));
  if (isNotation) return readLines(lines.filter((line) => line.trim() !== ''));
  const rows = lines.map((line) => line.split('\t'));
  const widest = Math.max(...rows.map((row) => row.length));
  if (widest > MOST_PASTED_COLUMNS)
    return refused(`What was pasted has ${widest} columns; a shot has at most ${MOST_PASTED_COLUMNS} levels.`);
  return readTable(rows);
}
