'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useRef } from 'react';
import type { Level, Shot } from '@/core/document/model';
import type { LevelComparison, ShotComparison } from '@/core/past/comparing';
import { drawingShownAt } from '@/core/sheet/reading';
import { usePastStore } from '@/features/past/pastStore';

/** As tall as what is pressed has to be at least. */
const ROW_PX = 24;

/** Where a key goes to in the table, from a frame of so many. */
const STEPS: Readonly<Record<string, (frame: number, frames: number) => number>> = {
  ArrowUp: (frame) => Math.max(0, frame - 1),
  ArrowDown: (frame, frames) => Math.min(frames - 1, frame + 1),
  Home: () => 0,
  End: (_, frames) => frames - 1,
};

const levelIn = (shot: Shot | undefined, levelId: string): Level | undefined => shot?.levels.find(({ id }) => id === levelId);

/** The number a level shows on a frame; a point where it is blank. */
const numberAt = (level: Level | undefined, frame: number): string => (level ? (drawingShownAt(level, frame)?.number ?? '·') : '');

/** Whether a frame shows the same drawing held on from the one before. */
const goesOn = (level: Level | undefined, frame: number): boolean =>
  level !== undefined && frame > 0 && drawingShownAt(level, frame)?.id === drawingShownAt(level, frame - 1)?.id;

function Cell({ compared, level, frame }: { compared: ShotComparison; level: LevelComparison; frame: number }) {
  const [was, is] = [levelIn(compared.shots.was, level.levelId), levelIn(compared.shots.is, level.levelId)];
  const isOther = level.frames.some(({ fromFrame, toFrame }) => frame >= fromFrame && frame < toFrame);
  if (isOther)
    return (
      <span className="flex h-6 items-center gap-1 bg-rust-wash px-2 text-rust">
        <span>{numberAt(was, frame) || '–'}</span>
        <span aria-hidden="true">→</span>
        <span className="sr-only">became</span>
        <span>{numberAt(is, frame) || '–'}</span>
      </span>
    );
  const shown = is ?? was;
  const id = shown && drawingShownAt(shown, frame)?.id;
  const isRedrawn = level.drawings.some((drawing) => drawing.drawingId === id && drawing.was?.picture !== drawing.is?.picture);
  return (
    <span className={`flex h-6 items-center px-2 ${isRedrawn ? 'border-rust border-l-2' : ''}`}>
      {goesOn(shown, frame) ? (
        <span aria-hidden="true" className="text-soft">
          /
        </span>
      ) : (
        numberAt(shown, frame)
      )}
      {isRedrawn && !goesOn(shown, frame) && <span className="ml-1 font-semibold text-xs">redrawn</span>}
    </span>
  );
}

type Props = { readonly compared: ShotComparison; readonly frames: number; readonly frame: number; readonly firstNumber: number };

/** One sheet of both: a row a frame, a column a level, and where they part what it was and what it is. */
export function PastSheet({ compared, frames, frame, firstNumber }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtualizer = useVirtualizer({ count: frames, getScrollElement: () => scroller.current, estimateSize: () => ROW_PX, overscan: 8 });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the frame comes into sight when it is another
  useEffect(() => virtualizer.scrollToIndex(frame, { align: 'center' }), [frame]);
  const rows = virtualizer.getVirtualItems();
  // One stop for the tab key, and arrows from there: there may be thousands of frames.
  const stop = rows.some(({ index }) => index === frame) ? frame : rows[0]?.index;
  const follows = useRef(false);
  // With every pass: the row stepped to is there once it was scrolled to, which makes rows anew.
  useEffect(() => {
    const button = follows.current ? scroller.current?.querySelector<HTMLElement>(`[data-frame="${frame}"]`) : null;
    if (!button) return;
    follows.current = false;
    button.focus({ preventScroll: true });
  });
  const step = (event: KeyboardEvent) => {
    const to = STEPS[event.key]?.(frame, frames);
    if (to === undefined || to === frame || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
    event.preventDefault();
    follows.current = true;
    usePastStore.setState({ frame: to });
  };
  const beforePx = rows[0]?.start ?? 0;
  const afterPx = virtualizer.getTotalSize() - (rows.at(-1)?.end ?? 0);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto rounded-lg border border-line">
      <table className="w-full border-separate border-spacing-0 text-xs" aria-label="The sheets, then and now" aria-rowcount={frames + 1}>
        <thead>
          <tr>
            <th className="sticky top-0 z-10 w-14 border-line border-b bg-paper px-2 py-1 text-left font-normal text-soft">frame</th>
            {compared.levels.map(({ levelId, name, state }) => (
              <th key={levelId} className="sticky top-0 z-10 min-w-21 border-line border-b bg-paper px-2 py-1 text-left font-semibold">
                {name}
                {state === 'gone' || state === 'new' ? <span className="text-rust"> {state}</span> : null}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="numbers" onKeyDown={step}>
          {beforePx > 0 && <tr style={{ height: beforePx }} />}
          {rows.map(({ index }) => (
            <tr key={index} aria-rowindex={index + 2} className={index === frame ? 'bg-lime-wash' : ''} style={{ height: ROW_PX }}>
              <th className="p-0 text-left font-normal">
                <button
                  type="button"
                  data-frame={index}
                  tabIndex={index === stop ? 0 : -1}
                  aria-label={`Go to frame ${index + firstNumber}`}
                  aria-pressed={index === frame}
                  onClick={() => usePastStore.setState({ frame: index })}
                  className="ring-within block w-full px-2 text-left text-soft hover:text-ink"
                  style={{ height: ROW_PX }}
                >
                  {index + firstNumber}
                </button>
              </th>
              {compared.levels.map((level) => (
                <td key={level.levelId} className="h-full p-0">
                  <Cell compared={compared} level={level} frame={index} />
                </td>
              ))}
            </tr>
          ))}
          {afterPx > 0 && <tr style={{ height: afterPx }} />}
        </tbody>
      </table>
    </div>
  );
}
