'use client';
import { memo } from 'react';
import { placesOnCharts } from '@/core/chart/places';
import type { Level } from '@/core/document/model';
import type { Block } from '@/core/sheet/block';
import { columnRuns, runsTouching } from '@/core/sheet/columns';
import type { PlacedRun } from '@/core/sheet/runs';
import { ExposureCell, ROW_PX } from '@/features/sheet/ExposureCell';

export const RULER_PX = 44;

/** Where a column stands; one past the last is where the notes stand. */
export const columnLeft = (column: number, columnWidth: string, headPx: number): string => `calc(${headPx}px + ${column} * ${columnWidth})`;

/** A cell that begins in a row, or whose first frame in sight it is. */
type Cell = { readonly column: number; readonly run: PlacedRun };

export const NO_CELLS: readonly Cell[] = [];

/** The cells of the rows from `fromFrame` (inclusive) to `toFrame` (exclusive) in columns likewise, a list for each row. */
export function cellsByRow(
  columns: readonly Level[],
  shotFrames: number,
  fromFrame: number,
  toFrame: number,
  fromColumn = 0,
  toColumn = columns.length,
): readonly (readonly Cell[])[] {
  const rows: Cell[][] = Array.from({ length: toFrame - fromFrame }, () => []);
  columns.slice(fromColumn, toColumn).forEach((level, index) => {
    const column = fromColumn + index;
    for (const run of runsTouching(columnRuns(level, shotFrames), fromFrame, toFrame))
      rows[Math.max(run.startFrame, fromFrame) - fromFrame]?.push({ column, run });
  });
  return rows;
}

const isSelected = (selection: Block | null, level: Level, run: PlacedRun) =>
  selection !== null &&
  run.drawing !== null &&
  selection.levelIds.includes(level.id) &&
  run.startFrame <= selection.toFrame &&
  run.endFrame > selection.fromFrame;

type Props = {
  readonly index: number;
  readonly firstNumber: number;
  readonly framesPerSecond: number;
  readonly shotFrames: number;
  readonly columns: readonly Level[];
  readonly columnWidth: string;
  /** How wide the ruler and the sound are that stand before the columns. */
  readonly headPx: number;
  readonly cells: readonly Cell[];
  readonly selection: Block | null;
  readonly showsPlaces: boolean;
  readonly note: string | undefined;
  readonly mark: string | undefined;
};

const sameCells = (before: readonly Cell[], after: readonly Cell[]) =>
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

/** Whether a row looks the same: its own cells count, not those of other rows. */
function sameRow(before: Props, after: Props): boolean {
  return (
    before.index === after.index &&
    before.firstNumber === after.firstNumber &&
    before.framesPerSecond === after.framesPerSecond &&
    before.shotFrames === after.shotFrames &&
    before.columns.length === after.columns.length &&
    before.columnWidth === after.columnWidth &&
    before.headPx === after.headPx &&
    before.note === after.note &&
    before.mark === after.mark &&
    before.showsPlaces === after.showsPlaces &&
    sameCells(before.cells, after.cells) &&
    after.cells.every(({ column }) => before.columns[column] === after.columns[column]) &&
    (before.selection === after.selection ||
      after.cells.every(({ column, run }) => {
        const level = after.columns[column] as Level;
        return isSelected(before.selection, level, run) === isSelected(after.selection, level, run);
      }))
  );
}

/** One frame's row: its number, the cells that begin in it, and what is written beside it. */
export const SheetRow = memo(function SheetRow(props: Props) {
  const { index, firstNumber, framesPerSecond, shotFrames, columns, columnWidth, headPx, cells, selection, showsPlaces, note, mark } =
    props;
  const number = index + firstNumber;
  const line =
    index % framesPerSecond === 0
      ? 'border-ink font-bold'
      : index % (framesPerSecond / 2) === 0
        ? 'border-line text-soft'
        : 'border-transparent text-soft';
  return (
    <div role="row" aria-rowindex={index + 2} className="contents">
      <span
        role="rowheader"
        aria-colindex={1}
        aria-label={`Frame ${number}`}
        className={`numbers pointer-events-none absolute box-border border-t pr-2 text-right text-2xs leading-[16px] ${line}`}
        style={{ top: index * ROW_PX, height: ROW_PX, left: 0, width: '100%' }}
      >
        <span className="absolute left-0" style={{ width: RULER_PX - 14 }}>
          {index % 2 === 0 ? number : <span className="sr-only">{number}</span>}
        </span>
      </span>
      {cells.map(({ column, run }) => {
        const level = columns[column] as Level;
        return (
          <ExposureCell
            key={column}
            id={`cell-${level.id}-${run.startFrame}`}
            level={level}
            run={run}
            column={column}
            shownFrom={index}
            firstNumber={firstNumber}
            framesPerSecond={framesPerSecond}
            left={columnLeft(column, columnWidth, headPx)}
            width={`calc(${columnWidth} - 4px)`}
            selected={isSelected(selection, level, run)}
            shotFrames={shotFrames}
            place={showsPlaces && run.drawing !== null ? placesOnCharts(level).get(run.drawing) : undefined}
          />
        );
      })}
      {(note || mark) && (
        <span
          role="gridcell"
          aria-colindex={columns.length + 3}
          className="pointer-events-none absolute z-[5] overflow-visible text-2xs leading-[15px]"
          style={{ top: index * ROW_PX, left: columnLeft(columns.length, columnWidth, headPx), right: 4 }}
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
