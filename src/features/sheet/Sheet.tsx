'use client';
import { type Range, useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Level, NoteKind, SheetNote, Shot } from '@/core/document/model';
import { sheetColumns } from '@/core/sheet/columns';
import { levelTiming } from '@/core/sheet/reading';
import { nominalRate } from '@/core/time/rate';
import { levelInView, useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { ColumnEdge } from '@/features/sheet/ColumnEdge';
import { DragHint } from '@/features/sheet/SheetMarks';
import { SheetNow } from '@/features/sheet/SheetNow';
import { cellsOfStack, SheetStack } from '@/features/sheet/SheetStack';
import { SoundColumn, useSoundsOver } from '@/features/sheet/SoundColumn';
import { SoundHead } from '@/features/sheet/SoundHead';
import { COLUMN_GAP_PX, ROW_PX, RULER_PX, STACK_ROWS } from '@/features/sheet/sheetRows';
import { useSheetPointer } from '@/features/sheet/useSheetPointer';
import { useCanvasLook } from '@/ui/useCanvasLook';

const NOTES_PX = 56;
const NARROWEST_COLUMN_PX = 40;
/** Room for a number of three signs with a fraction beside it. */
const NARROWEST_WITH_PLACES_PX = 84;
const SHARED_COLUMN_PX = 50;
/** As wide where the sound takes some of the room. */
const SHARED_BESIDE_SOUND_PX = 45;
const WIDEST_COLUMN_PX = 72;
const FIRST_WIDTH_PX = 300;
const SCROLL_STEP_PX = 24;

const NOTE_MARK: Record<NoteKind, (words: string) => string> = {
  note: (words) => words,
  word: (words) => `“${words}”`,
  accent: (words) => `› ${words}`,
};

/** The rows in sight with a stack more on both sides, whole stacks of them. */
function rowsAround({ startIndex, endIndex, count }: Range): number[] {
  const first = Math.max(0, (Math.floor(startIndex / STACK_ROWS) - 1) * STACK_ROWS);
  const end = Math.min(count, (Math.floor(endIndex / STACK_ROWS) + 2) * STACK_ROWS);
  return Array.from({ length: Math.max(0, end - first) }, (_, place) => first + place);
}

/** What is written beside each frame: notes plain, spoken words in quotes, accents after an arrow. */
function notesByFrame(notes: readonly SheetNote[]): ReadonlyMap<number, string> {
  const byFrame = new Map<number, string>();
  for (const note of notes) {
    const before = byFrame.get(note.frame);
    const words = NOTE_MARK[note.kind](note.words);
    byFrame.set(note.frame, before === undefined ? words : `${before} ${words}`);
  }
  return byFrame;
}

/** How wide the sheet's window is and how far it is scrolled sideways, in steps, so that scrolling down paints nothing anew. */
function useColumnRoom(scroller: RefObject<HTMLDivElement | null>): { widthPx: number; scrolledPx: number } {
  const [room, setRoom] = useState({ widthPx: FIRST_WIDTH_PX, scrolledPx: 0 });
  useLayoutEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const measure = () => {
      const next = { widthPx: element.clientWidth, scrolledPx: Math.floor(element.scrollLeft / SCROLL_STEP_PX) * SCROLL_STEP_PX };
      setRoom((before) => (before.widthPx === next.widthPx && before.scrolledPx === next.scrolledPx ? before : next));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    element.addEventListener('scroll', measure, { passive: true });
    return () => {
      observer.disconnect();
      element.removeEventListener('scroll', measure);
    };
  }, [scroller]);
  return room;
}

/** The exposure sheet: time running down, a row a frame, a column a level; only the rows in sight are made. */
export function Sheet({ shot, marks }: { shot: Shot; marks?: ReadonlyMap<number, string> }) {
  const project = useProject();
  const scroller = useRef<HTMLDivElement>(null);
  const chosenLevelId = useViewStore((state) => state.levelId);
  const selection = useViewStore((state) => state.selection);
  const columnWidthPx = useViewStore((state) => state.columnWidthPx);
  const showsPlaces = useViewStore((state) => state.showsPlaces);
  const columns = useMemo(() => sheetColumns(shot), [shot]);
  const level = levelInView(shot, chosenLevelId);
  const perSecond = nominalRate(project.rate);
  const virtualizer = useVirtualizer({
    count: shot.frames,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    rangeExtractor: rowsAround,
    useFlushSync: false,
  });

  const { laned, lanePx, widthPx: soundPx } = useSoundsOver(shot);
  const headPx = RULER_PX + soundPx;
  const { widthPx: roomPx, scrolledPx } = useColumnRoom(scroller);
  const share = (roomPx - headPx - NOTES_PX) / Math.max(columns.length, 1);
  const narrowestPx = showsPlaces ? NARROWEST_WITH_PLACES_PX : NARROWEST_COLUMN_PX;
  // Whole pixels, so that what is painted lies sharp on the screen.
  const widthPx = Math.floor(
    Math.max(
      narrowestPx,
      columnWidthPx ?? Math.max(soundPx > 0 ? SHARED_BESIDE_SOUND_PX : SHARED_COLUMN_PX, Math.min(WIDEST_COLUMN_PX, share)),
    ),
  );
  const columnWidth = `${widthPx}px`;
  // A level that becomes the current one comes in sight with one beside it.
  const chosenColumn = level ? columns.indexOf(level) : -1;
  useLayoutEffect(() => {
    const element = scroller.current;
    if (!element || chosenColumn < 0) return;
    const columnPx = headPx + chosenColumn * widthPx;
    const { scrollLeft, clientWidth } = element;
    if (columnPx - widthPx < scrollLeft) element.scrollLeft = Math.max(0, columnPx - headPx - widthPx);
    else if (columnPx + 2 * widthPx > scrollLeft + clientWidth) element.scrollLeft = columnPx + 2 * widthPx - clientWidth;
  }, [chosenColumn, widthPx, headPx]);
  const left = (column: number) => `${headPx + column * widthPx}px`;
  const levelAtX = (x: number): Level | undefined => (x < headPx ? undefined : columns[Math.floor((x - headPx) / widthPx)]);
  const fromColumn = Math.max(0, Math.floor((scrolledPx - headPx) / widthPx) - 1);
  const toColumn = Math.min(columns.length, Math.ceil((scrolledPx + roomPx - headPx) / widthPx) + 1);
  const pointer = useSheetPointer(shot, columns, levelAtX, project.firstFrameNumber);

  const rows = virtualizer.getVirtualItems();
  const fromFrame = rows[0]?.index ?? 0;
  const toFrame = (rows.at(-1)?.index ?? 0) + 1;
  const stacks = rows.filter(({ index }) => index % STACK_ROWS === 0).map(({ index }) => index);
  const look = useCanvasLook();
  const notes = useMemo(() => notesByFrame(shot.notes), [shot.notes]);
  const minWidth = headPx + NOTES_PX + columns.length * widthPx;

  return (
    <section aria-label="Sheet" className="panel flex flex-col overflow-hidden">
      <div
        ref={scroller}
        role="grid"
        aria-label={`Sheet of shot ${shot.code}`}
        aria-rowcount={shot.frames + 1}
        aria-colcount={columns.length + 3}
        aria-multiselectable="true"
        tabIndex={0}
        className="relative min-h-0 flex-1 overflow-auto bg-paper outline-offset-[-2px] will-change-scroll"
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
          {soundPx > 0 && <SoundHead widthPx={soundPx} />}
          {columns.map((column, index) => (
            <span
              key={column.id}
              role="columnheader"
              aria-colindex={index + 3}
              className="relative min-w-0 shrink-0"
              style={{ width: columnWidth }}
            >
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
              <ColumnEdge />
            </span>
          ))}
          <span role="columnheader" aria-colindex={columns.length + 3} className="pl-1 font-bold text-xs">
            Notes
          </span>
        </div>
        <div
          className="seconds relative touch-pan-y select-none contain-strict"
          style={{
            height: virtualizer.getTotalSize(),
            minWidth,
            backgroundSize: `100% ${perSecond * ROW_PX}px, 100% ${(perSecond % 2 === 0 ? perSecond / 2 : perSecond) * ROW_PX}px`,
          }}
          {...pointer.handlers}
        >
          <SheetNow
            scroller={scroller}
            shot={shot}
            level={level}
            left={level && columns.includes(level) ? left(columns.indexOf(level)) : null}
          />
          <SoundColumn laned={laned} lanePx={lanePx} shot={shot} left={RULER_PX} fromFrame={fromFrame} toFrame={toFrame} />
          <div role="rowgroup" className="absolute inset-0 isolate contain-layout">
            {stacks.map((startFrame) => (
              <SheetStack
                key={startFrame}
                startFrame={startFrame}
                shotFrames={shot.frames}
                firstNumber={project.firstFrameNumber}
                framesPerSecond={perSecond}
                columns={columns}
                fromColumn={fromColumn}
                toColumn={toColumn}
                columnPx={widthPx}
                headPx={headPx}
                cells={cellsOfStack(columns, shot.frames, startFrame, fromColumn, toColumn)}
                isFirst={startFrame === fromFrame}
                selection={selection}
                showsPlaces={showsPlaces}
                notes={notes}
                marks={marks}
                look={look}
              />
            ))}
          </div>
          {selection && selection.levelIds.length > 0 && (
            <div
              className="pointer-events-none absolute rounded-[7px] border-2 border-moss"
              style={{
                top: selection.fromFrame * ROW_PX,
                height: (selection.toFrame - selection.fromFrame + 1) * ROW_PX,
                left: left(Math.min(...selection.levelIds.map((id) => columns.findIndex((column) => column.id === id)))),
                width: selection.levelIds.length * widthPx - COLUMN_GAP_PX,
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
              firstNumber={project.firstFrameNumber}
            />
          )}
        </div>
      </div>
    </section>
  );
}
