'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import type { BringInPlan } from '@/core/bring/bringIn';
import type { Size } from '@/core/document/model';
import { Thumb } from '@/features/sheet/Thumb';

const ROW_PX = 34;
const THUMB_PX = 46;
const COLUMNS = 'grid grid-cols-[52px_40px_84px_56px_64px_minmax(0,1fr)] items-center gap-2';

/** The sheet that bringing in will make: each exposure with its picture, number, frames, and the files it comes from. */
export function BringPreview({ bringing, size, firstNumber }: { bringing: BringInPlan; size: Size; firstNumber: number }) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtualizer = useVirtualizer({
    count: bringing.exposures.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 6,
  });
  return (
    <div className="flex min-h-0 flex-1 flex-col rounded-lg border border-line">
      <div className={`${COLUMNS} border-line border-b px-2 py-1 text-soft text-xs`} aria-hidden="true">
        <span />
        <span>drawing</span>
        <span>on frames</span>
        <span>held</span>
        <span>drift, ms</span>
        <span>from</span>
      </div>
      <section ref={scroller} className="ring-within min-h-0 flex-1 overflow-y-auto" aria-label="The sheet that will be made">
        <ul className="relative" style={{ height: virtualizer.getTotalSize() }}>
          {virtualizer.getVirtualItems().map((item) => {
            const exposure = bringing.exposures[item.index];
            if (!exposure) return null;
            const { number, picture, startFrame, frames, names, driftMilliseconds, isKept, isAgain } = exposure;
            const last = startFrame + frames - 1;
            return (
              <li
                key={item.key}
                className={`${COLUMNS} numbers absolute inset-x-0 px-2 text-xs`}
                style={{ top: item.start, height: ROW_PX }}
              >
                <span className="overflow-hidden rounded border border-line" style={{ width: THUMB_PX }}>
                  <Thumb size={size} widthPx={THUMB_PX} layers={[{ picture, opacityPercent: 100 }]} />
                </span>
                <span className="font-semibold">{number}</span>
                <span>
                  {startFrame + firstNumber}
                  {frames > 1 ? `–${last + firstNumber}` : ''}
                </span>
                <span>
                  {frames}
                  {isKept ? '!' : ''}
                </span>
                <span title={isKept ? 'Its own time is shorter than half a frame: it keeps one' : undefined}>
                  {driftMilliseconds ?? '–'}
                </span>
                <span className="truncate font-sans" title={names.join(', ')}>
                  {names.length > 1 ? `${names[0]} and ${names.length - 1} more` : names[0]}
                  {isAgain ? ', shown again' : ''}
                </span>
              </li>
            );
          })}
        </ul>
      </section>
    </div>
  );
}
