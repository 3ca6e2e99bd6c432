'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef } from 'react';
import { columnRuns, runsTouching, sheetColumns } from '@/core/sheet/columns';
import type { Level, Shot } from '@/core/sheet/document';
import { levelTiming } from '@/core/sheet/reading';
import type { PlacedRun } from '@/core/sheet/runs';
import { nominalRate } from '@/core/time/rate';
import { levelInView, useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { ExposureCell, ROW_PX } from '@/features/sheet/ExposureCell';
import { DragHint, NowBand, OnionBracket } from '@/features/sheet/SheetMarks';
import { useSheetPointer } from '@/features/sheet/useSheetPointer';

const RULER_PX = 44;
const NOTES_PX = 56;
const NARROWEST_COLUMN_PX = 50;
const WIDEST_COLUMN_PX = 72;

/** Runs by the first of their frames in sight, so that a row knows which cells begin in it. */
function runsByRow(runs: readonly PlacedRun[], fromFrame: number): Map<number, PlacedRun> {
  return new Map(runs.map((run) => [Math.max(run.startFrame, fromFrame), run]));
}

/** The exposure sheet: time running down, a row a frame, a column a level; only the rows in sight are made. */
export function Sheet({ shot, marks }: { shot: Shot; marks?: ReadonlyMap<number, string> }) {
  const project = useProject();
  const scroller = useRef<HTMLDivElement>(null);
  const chosenLevelId = useViewStore((state) => state.levelId);
  const selection = useViewStore((state) => state.selection);
  const frame = useViewStore((state) => Math.min(state.frame, shot.frames - 1));
  const playing = useViewStore((state) => state.playing);
  const columns = useMemo(() => sheetColumns(shot), [shot]);
  const level = levelInView(shot, chosenLevelId);
  const perSecond = nominalRate(project.rate);
  const virtualizer = useVirtualizer({
    count: shot.frames,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });

  const columnWidth = `clamp(${NARROWEST_COLUMN_PX}px, calc((100% - ${RULER_PX + NOTES_PX}px) / ${Math.max(columns.length, 1)}), ${WIDEST_COLUMN_PX}px)`;
  const left = (column: number) => `calc(${RULER_PX}px + ${column} * ${columnWidth})`;
  const levelAtX = (x: number): Level | undefined => {
    const share = ((scroller.current?.clientWidth ?? 0) - RULER_PX - NOTES_PX) / Math.max(columns.length, 1);
    const width = Math.max(NARROWEST_COLUMN_PX, Math.min(WIDEST_COLUMN_PX, share));
    return x < RULER_PX ? undefined : columns[Math.floor((x - RULER_PX) / width)];
  };
  const pointer = useSheetPointer(shot, columns, levelAtX, project.startFrame);

  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const top = frame * ROW_PX;
    const margin = ROW_PX * 3;
    if (top < element.scrollTop + margin && element.scrollTop > 0)
      element.scrollTop = Math.max(0, top - (playing ? element.clientHeight / 3 : margin));
    else if (top + ROW_PX > element.scrollTop + element.clientHeight - margin)
      element.scrollTop = top - (playing ? element.clientHeight / 3 : element.clientHeight - ROW_PX - margin);
  }, [frame, playing]);

  const rows = virtualizer.getVirtualItems();
  const fromFrame = rows[0]?.index ?? 0;
  const toFrame = (rows.at(-1)?.index ?? 0) + 1;
  const visible = useMemo(
    () => columns.map((column) => runsByRow(runsTouching(columnRuns(column, shot.frames), fromFrame, toFrame), fromFrame)),
    [columns, shot.frames, fromFrame, toFrame],
  );
  const notes = useMemo(() => new Map(shot.notes.map((note) => [note.frame, note.words])), [shot.notes]);
  const activeRun = level && runsTouching(columnRuns(level, shot.frames), frame, frame + 1)[0];
  const minWidth = RULER_PX + NOTES_PX + columns.length * NARROWEST_COLUMN_PX;

  return (
    <section aria-label="Sheet" className="panel flex flex-col overflow-hidden">
      <div
        ref={scroller}
        role="grid"
        aria-label={`Sheet of shot ${shot.code}`}
        aria-rowcount={shot.frames + 1}
        aria-colcount={columns.length + 2}
        aria-multiselectable="true"
        aria-activedescendant={level && activeRun ? `cell-${level.id}-${activeRun.startFrame}` : undefined}
        tabIndex={0}
        className="relative min-h-0 flex-1 overflow-auto outline-offset-[-2px]"
      >
        <div
          role="row"
          aria-rowindex={1}
          className="sticky top-0 z-20 flex h-12 items-end border-line border-b bg-paper pb-1.5"
          style={{ minWidth }}
        >
          <span role="columnheader" aria-colindex={1} className="shrink-0 pl-2 text-2xs text-soft" style={{ width: RULER_PX }}>
            frame
          </span>
          {columns.map((column, index) => (
            <span key={column.id} role="columnheader" aria-colindex={index + 2} className="min-w-0 shrink-0" style={{ width: columnWidth }}>
              <button
                type="button"
                tabIndex={-1}
                onClick={() => useViewStore.setState({ levelId: column.id, selection: null })}
                className="block w-full px-1 text-left leading-[15px]"
                title={column.name}
              >
                <span
                  className={`block truncate font-bold text-xs ${column.id === level?.id ? 'underline decoration-2 decoration-lime underline-offset-2' : ''} ${column.visible ? '' : 'line-through opacity-60'}`}
                >
                  {column.name}
                </span>
                <span className="block truncate text-2xs text-soft">{column.kind === 'guide' ? 'guide' : levelTiming(column)}</span>
              </button>
            </span>
          ))}
          <span role="columnheader" aria-colindex={columns.length + 2} className="pl-1 font-bold text-xs">
            Notes
          </span>
        </div>
        <div className="relative touch-pan-y select-none" style={{ height: virtualizer.getTotalSize(), minWidth }} {...pointer.handlers}>
          <NowBand frame={frame} />
          {level && columns.includes(level) && <OnionBracket level={level} frame={frame} left={left(columns.indexOf(level))} />}
          {rows.map((row) => {
            const index = row.index;
            const number = index + project.startFrame;
            const strong = index % perSecond === 0;
            return (
              <div key={row.key} role="row" aria-rowindex={index + 2} className="contents">
                <span
                  role="rowheader"
                  aria-colindex={1}
                  aria-label={`Frame ${number}`}
                  className={`numbers pointer-events-none absolute box-border border-t pr-2 text-right text-2xs leading-[16px] ${strong ? 'border-ink font-bold' : index % (perSecond / 2) === 0 ? 'border-line text-soft' : 'border-transparent text-soft'}`}
                  style={{ top: index * ROW_PX, height: ROW_PX, left: 0, width: '100%' }}
                >
                  <span className="absolute left-0" style={{ width: RULER_PX - 14 }}>
                    {index % 2 === 0 ? number : <span className="sr-only">{number}</span>}
                  </span>
                </span>
                {columns.map((column, place) => {
                  const run = visible[place]?.get(index);
                  return (
                    run && (
                      <ExposureCell
                        key={column.id}
                        id={`cell-${column.id}-${run.startFrame}`}
                        level={column}
                        run={run}
                        column={place}
                        shownFrom={index}
                        firstNumber={project.startFrame}
                        framesPerSecond={perSecond}
                        left={left(place)}
                        width={`calc(${columnWidth} - 4px)`}
                        selected={
                          selection !== null &&
                          run.drawing !== null &&
                          selection.levelIds.includes(column.id) &&
                          run.startFrame <= selection.toFrame &&
                          run.endFrame > selection.fromFrame
                        }
                        shotFrames={shot.frames}
                      />
                    )
                  );
                })}
                {(notes.has(index) || marks?.has(index)) && (
                  <span
                    role="gridcell"
                    aria-colindex={columns.length + 2}
                    className="pointer-events-none absolute z-[5] overflow-visible text-2xs leading-[15px]"
                    style={{ top: index * ROW_PX, left: left(columns.length), right: 4 }}
                  >
                    {marks?.has(index) && (
                      <span className="mr-1 inline-block rounded bg-rust-wash px-1 font-bold text-rust" title={marks.get(index)}>
                        !<span className="sr-only">{marks.get(index)}</span>
                      </span>
                    )}
                    <span className="text-soft">{notes.get(index)}</span>
                  </span>
                )}
              </div>
            );
          })}
          {selection && selection.levelIds.length > 0 && (
            <div
              className="pointer-events-none absolute rounded-[7px] border-2 border-moss"
              style={{
                top: selection.fromFrame * ROW_PX,
                height: (selection.toFrame - selection.fromFrame + 1) * ROW_PX,
                left: left(Math.min(...selection.levelIds.map((id) => columns.findIndex((column) => column.id === id)))),
                width: `calc(${selection.levelIds.length} * ${columnWidth} - 4px)`,
              }}
            />
          )}
          {pointer.drag && (
            <DragHint
              drag={pointer.drag}
              shot={shot}
              columns={columns}
              left={left}
              columnWidth={columnWidth}
              firstNumber={project.startFrame}
            />
          )}
        </div>
      </div>
    </section>
  );
}
