'use client';
import { type RefObject, useEffect } from 'react';
import type { Level, Shot } from '@/core/document/model';
import { columnRuns, runsTouching } from '@/core/sheet/columns';
import { useViewStore } from '@/features/project/viewStore';
import { OnionBracket } from '@/features/sheet/OnionBracket';
import { ROW_PX } from '@/features/sheet/sheetRows';

const MARGIN_PX = ROW_PX * 3;

/**
 * Scrolls so that the row of a frame is in sight with some rows around it. While playing it stays a third
 * of the way down, so that the sheet goes on a row at a time: a page at a time would hold up the picture.
 */
function keepInSight(element: HTMLElement, frame: number, playing: boolean): void {
  const { scrollTop, clientHeight } = element;
  const top = frame * ROW_PX;
  if (playing) element.scrollTop = Math.max(0, top - Math.floor(clientHeight / 3));
  else if (top < scrollTop + MARGIN_PX && scrollTop > 0) element.scrollTop = Math.max(0, top - MARGIN_PX);
  else if (top + ROW_PX > scrollTop + clientHeight - MARGIN_PX) element.scrollTop = top - (clientHeight - ROW_PX - MARGIN_PX);
}

type Props = {
  scroller: RefObject<HTMLDivElement | null>;
  shot: Shot;
  level: Level | undefined;
  /** Where the level's column stands; null when it has none. */
  left: string | null;
};

/**
 * What on the sheet follows the current frame: the band, the onion skin's reach, the active cell for
 * screen readers, and what is in sight. It stands apart so that a step of one frame paints no row again.
 */
export function SheetNow({ scroller, shot, level, left }: Props) {
  const frame = useViewStore((state) => Math.min(state.frame, shot.frames - 1));
  const playing = useViewStore((state) => state.playing);
  const activeRun = level && runsTouching(columnRuns(level, shot.frames), frame, frame + 1)[0];
  const activeCell = level && activeRun ? `cell-${level.id}-${activeRun.startFrame}` : null;

  const frames = shot.frames;
  useEffect(() => {
    const follow = (state: { frame: number; playing: boolean }) => {
      if (scroller.current) keepInSight(scroller.current, Math.min(state.frame, frames - 1), state.playing);
    };
    follow(useViewStore.getState());
    // At once, and not after the page is painted anew: scrolling what has just changed would have it laid out twice.
    return useViewStore.subscribe((state, before) => {
      if (state.frame !== before.frame || state.playing !== before.playing) follow(state);
    });
  }, [scroller, frames]);

  useEffect(() => {
    if (activeCell) scroller.current?.setAttribute('aria-activedescendant', activeCell);
    else scroller.current?.removeAttribute('aria-activedescendant');
  }, [scroller, activeCell]);

  return (
    <>
      <div
        className="pointer-events-none absolute inset-x-0 top-0 z-10 border-moss border-y bg-lime/30 will-change-transform"
        style={{ transform: `translateY(${frame * ROW_PX}px)`, height: ROW_PX }}
      />
      {level && left !== null && !playing && <OnionBracket level={level} frame={frame} left={left} />}
    </>
  );
}
