'use client';
import { memo, useLayoutEffect, useMemo, useRef } from 'react';
import { placesOnCharts } from '@/core/chart/places';
import { drawingById, type Level } from '@/core/document/model';
import type { Block } from '@/core/sheet/block';
import { columnRuns, runsTouching } from '@/core/sheet/columns';
import { useSoon } from '@/features/project/useCalm';
import { type Painted, type PaintedCell, type PaintedPart, paintPart } from '@/features/sheet/paintSheet';
import { type Cell, isSelected, SheetRow, sameCells, sameLooks } from '@/features/sheet/SheetRow';
import { ROW_PX, STACK_ROWS } from '@/features/sheet/sheetRows';
import type { CanvasLook } from '@/ui/useCanvasLook';

type Props = {
  /** Its first row's frame, a multiple of a stack's rows. */
  readonly startFrame: number;
  readonly shotFrames: number;
  readonly firstNumber: number;
  readonly framesPerSecond: number;
  readonly columns: readonly Level[];
  /** The columns in sight: from (inclusive) and to (exclusive). */
  readonly fromColumn: number;
  readonly toColumn: number;
  readonly columnPx: number;
  readonly headPx: number;
  /** What touches its rows in the columns in sight. */
  readonly cells: readonly Cell[];
  /** The first row that is made at all: cells from before stand there, for those who hear them. */
  readonly isFirst: boolean;
  readonly selection: Block | null;
  readonly showsPlaces: boolean;
  readonly notes: ReadonlyMap<number, string>;
  readonly marks: ReadonlyMap<number, string> | undefined;
  readonly look: CanvasLook;
};

/** What touches a stack's rows in columns from `fromColumn` (inclusive) to `toColumn` (exclusive). */
export function cellsOfStack(
  columns: readonly Level[],
  shotFrames: number,
  startFrame: number,
  fromColumn: number,
  toColumn: number,
): readonly Cell[] {
  return columns
    .slice(fromColumn, toColumn)
    .flatMap((level, index) =>
      runsTouching(columnRuns(level, shotFrames), startFrame, startFrame + STACK_ROWS).map((run) => ({ column: fromColumn + index, run })),
    );
}

function painted({ columns, cells, selection, shotFrames, framesPerSecond, showsPlaces }: Props): readonly PaintedCell[] {
  return cells.flatMap(({ column, run }): PaintedCell[] => {
    const level = columns[column] as Level;
    const drawing = drawingById(level, run.drawing);
    if (!drawing) return [];
    return [
      {
        column,
        startFrame: run.startFrame,
        endFrame: run.endFrame,
        drawing,
        isHold: run.endFrame - run.startFrame > framesPerSecond / 3,
        isSelected: isSelected(selection, level, run),
        isPast: run.startFrame >= shotFrames,
        place: showsPlaces ? placesOnCharts(level).get(drawing.id) : undefined,
      },
    ];
  });
}

const sameWritten = (before: ReadonlyMap<number, string> | undefined, after: ReadonlyMap<number, string> | undefined, startFrame: number) =>
  before === after ||
  Array.from({ length: STACK_ROWS }, (_, row) => startFrame + row).every((frame) => before?.get(frame) === after?.get(frame));

/** Whether a stack is the same: its own cells count, not those of others. */
function sameStack(before: Props, after: Props): boolean {
  const { startFrame } = after;
  return (
    before.startFrame === startFrame &&
    before.shotFrames === after.shotFrames &&
    before.firstNumber === after.firstNumber &&
    before.framesPerSecond === after.framesPerSecond &&
    before.columns.length === after.columns.length &&
    before.fromColumn === after.fromColumn &&
    before.toColumn === after.toColumn &&
    before.columnPx === after.columnPx &&
    before.headPx === after.headPx &&
    before.isFirst === after.isFirst &&
    before.showsPlaces === after.showsPlaces &&
    before.look === after.look &&
    sameWritten(before.notes, after.notes, startFrame) &&
    sameWritten(before.marks, after.marks, startFrame) &&
    sameCells(before.cells, after.cells) &&
    after.cells.every(({ column }) => {
      const [one, other] = [before.columns[column], after.columns[column]];
      return one === other || (one?.name === other?.name && (!after.showsPlaces || one?.charts === other?.charts));
    }) &&
    sameLooks(before, after, after.cells)
  );
}

/** Some rows of the sheet: painted on a canvas, with what is heard and pressed over it. */
export const SheetStack = memo(function SheetStack(props: Props) {
  const { startFrame, shotFrames, firstNumber, framesPerSecond, fromColumn, toColumn, columnPx, headPx, look } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const endFrame = Math.min(startFrame + STACK_ROWS, shotFrames);
  const leftPx = fromColumn === 0 ? 0 : headPx + fromColumn * columnPx;
  const widthPx = Math.max(1, headPx + toColumn * columnPx - leftPx);

  const ruler = useMemo(() => ({ firstNumber, framesPerSecond }), [firstNumber, framesPerSecond]);
  const part: PaintedPart = useMemo(
    () => ({ fromFrame: startFrame, toFrame: endFrame, leftPx, widthPx, columnPx, headPx }),
    [startFrame, endFrame, leftPx, widthPx, columnPx, headPx],
  );
  const shows = useRef<{ readonly painted: Painted | null; readonly look: CanvasLook; readonly ruler: object } | null>(null);
  useLayoutEffect(() => {
    if (!canvas.current) return;
    const { current } = shows;
    const before = current?.look === look && current.ruler === ruler && current.painted?.part === part ? current.painted : null;
    shows.current = { painted: paintPart(canvas.current, painted(props), part, ruler, look.pixelRatio, before), look, ruler };
  });

  const [top, height] = [startFrame * ROW_PX, (endFrame - startFrame) * ROW_PX];
  // What is painted is seen at once; what is heard and found comes once keys rest.
  const heard = useSoon(props);
  return (
    <>
      <canvas ref={canvas} className="pointer-events-none absolute" style={{ top, height, left: leftPx, width: widthPx }} />
      <StackRows {...heard} />
    </>
  );
}, sameStack);

/** The rows of a stack as they are heard and pressed, with what is written beside them. */
const StackRows = memo(function StackRows(props: Props) {
  const { startFrame, shotFrames, firstNumber, framesPerSecond, columns, columnPx, headPx, cells, isFirst, selection, notes, marks } =
    props;
  const rows = Math.max(0, Math.min(startFrame + STACK_ROWS, shotFrames) - startFrame);
  return Array.from({ length: rows }, (_, row) => startFrame + row).map((frame) => (
    <SheetRow
      key={frame}
      index={frame}
      firstNumber={firstNumber}
      framesPerSecond={framesPerSecond}
      columns={columns}
      columnPx={columnPx}
      headPx={headPx}
      cells={cells.filter(({ run }) => run.startFrame === frame || (isFirst && frame === startFrame && run.startFrame < frame))}
      selection={selection}
      note={notes.get(frame)}
      mark={marks?.get(frame)}
    />
  ));
}, sameStack);
