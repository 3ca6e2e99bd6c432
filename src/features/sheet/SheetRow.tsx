'use client';
import { memo } from 'react';
import type { Level } from '@/core/document/model';
import type { Block } from '@/core/sheet/block';
import type { PlacedRun } from '@/core/sheet/runs';
import { SheetCell } from '@/features/sheet/SheetCell';
import { COLUMN_GAP_PX, ROW_PX, RULER_PX } from '@/features/sheet/sheetRows';

/** An exposure in its column. */
export type Cell = { readonly column: number; readonly run: PlacedRun };

export const isSelected = (selection: Block | null, level: Level, run: PlacedRun): boolean =>
  selection !== null &&
  run.drawing !== null &&
  selection.levelIds.includes(level.id) &&
  run.startFrame <= selection.toFrame &&
  run.endFrame > selection.fromFrame;

type Props = {
  readonly index: number;
  readonly firstNumber: number;
  readonly framesPerSecond: number;
  readonly columns: readonly Level[];
  readonly columnPx: number;
  /** Where the first column stands, behind ruler and sound. */
  readonly headPx: number;
  /** The cells that begin in it, or whose first row among those that are made it is. */
  readonly cells: readonly Cell[];
  readonly selection: Block | null;
  readonly note: string | undefined;
  readonly mark: string | undefined;
};

export const sameCells = (before: readonly Cell[], after: readonly Cell[]): boolean =>
  before.length === after.length &&
  before.every((cell, place) => {
    const other = after[place];
    return (
      other !== undefined &&
      cell.column === other.column &&
      cell.run.drawing === other.run.drawing &&
      cell.run.startFrame === other.run.startFrame &&
      cell.run.endFrame === other.run.endFrame
    );
  });

/** Whether cells look the same: their levels and what of them is chosen. */
export const sameLooks = (
  before: { readonly columns: readonly Level[]; readonly selection: Block | null },
  after: { readonly columns: readonly Level[]; readonly selection: Block | null },
  cells: readonly Cell[],
): boolean =>
  cells.every(({ column, run }) => {
    const level = after.columns[column] as Level;
    if (before.columns[column] !== level && before.columns[column]?.drawings !== level.drawings) return false;
    return before.selection === after.selection || isSelected(before.selection, level, run) === isSelected(after.selection, level, run);
  });

/** Whether a row says the same: its own cells count, not those of other rows. */
function sameRow(before: Props, after: Props): boolean {
  return (
    before.index === after.index &&
    before.firstNumber === after.firstNumber &&
    before.framesPerSecond === after.framesPerSecond &&
    before.columns.length === after.columns.length &&
    before.columnPx === after.columnPx &&
    before.headPx === after.headPx &&
    before.note === after.note &&
    before.mark === after.mark &&
    sameCells(before.cells, after.cells) &&
    after.cells.every(({ column }) => before.columns[column]?.name === after.columns[column]?.name) &&
    sameLooks(before, after, after.cells)
  );
}

/** One frame's row as it is heard: its number, the cells that begin in it; and what is written beside it. */
export const SheetRow = memo(function SheetRow(props: Props) {
  const { index, firstNumber, framesPerSecond, columns, columnPx, headPx, cells, selection, note, mark } = props;
  return (
    <div role="row" aria-rowindex={index + 2} className="contents">
      <span
        role="rowheader"
        aria-colindex={1}
        aria-label={`Frame ${index + firstNumber}`}
        // The number is painted; here it is only heard.
        className="pointer-events-none absolute left-0 text-[0px]"
        style={{ top: index * ROW_PX, height: ROW_PX, width: RULER_PX }}
      >
        {index + firstNumber}
      </span>
      {cells.map(({ column, run }) => {
        const level = columns[column] as Level;
        return (
          <SheetCell
            key={column}
            id={`cell-${level.id}-${run.startFrame}`}
            level={level}
            run={run}
            column={column}
            firstNumber={firstNumber}
            framesPerSecond={framesPerSecond}
            leftPx={headPx + column * columnPx}
            widthPx={columnPx - COLUMN_GAP_PX}
            selected={isSelected(selection, level, run)}
          />
        );
      })}
      {(note || mark) && (
        <span
          role="gridcell"
          aria-colindex={columns.length + 3}
          className="pointer-events-none absolute z-[5] overflow-visible text-2xs leading-[15px]"
          style={{ top: index * ROW_PX, left: headPx + columns.length * columnPx, right: 4 }}
        >
          {mark && (
            <span className="mr-1 inline-block rounded bg-rust-wash px-1 font-bold text-rust" title={mark}>
              !<span className="sr-only">{mark}</span>
            </span>
          )}
          <span className="text-soft">{note}</span>
        </span>
      )}
    </div>
  );
}, sameRow);
