'use client';
import { memo } from 'react';
import type { Level, Shot } from '@/core/document/model';
import { sheetColumns } from '@/core/sheet/columns';
import { drawingShownAt, roleWord, timingWord } from '@/core/sheet/reading';
import { runAt } from '@/core/sheet/runs';
import { nominalRate } from '@/core/time/rate';
import { levelInView, useProject } from '@/features/project/hooks';
import { useSoon } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { DrawingNumber } from '@/features/sheet/DrawingNumber';

/** One card a level: the drawing that shows now, drawn or only planned, and where in its exposure we are. The sheet doesn't wait for them. */
export function ShownCards({ shot }: { shot: Shot }) {
  const frameNow = useViewStore((state) => state.frame);
  const levelId = useViewStore((state) => state.levelId);
  const frame = useSoon(frameNow);
  return <Cards shot={shot} frame={Math.min(frame, shot.frames - 1)} active={useSoon(levelInView(shot, levelId))} />;
}

const Cards = memo(function Cards({ shot, frame, active }: { shot: Shot; frame: number; active: Level | undefined }) {
  const project = useProject();
  return (
    <ul className="flex min-h-12 gap-2 overflow-x-auto" aria-label="Drawings shown now">
      {sheetColumns(shot).map((level) => {
        const drawing = drawingShownAt(level, frame);
        const run = runAt(level.exposures, frame);
        const frames = run ? run.endFrame - run.startFrame : 0;
        return (
          <li key={level.id} className="min-w-28 flex-1">
            <button
              type="button"
              onClick={() => useViewStore.setState({ levelId: level.id, selection: null })}
              aria-pressed={level.id === active?.id}
              className={`ring-within flex h-full w-full items-center gap-2 rounded-lg border bg-paper px-2.5 py-1 text-left ${level.id === active?.id ? 'border-moss' : drawing && !drawing.picture ? 'border-edge border-dashed' : 'border-line'}`}
            >
              <span className="min-w-7 text-center">
                {drawing ? <DrawingNumber drawing={drawing} /> : <span className="text-soft">·</span>}
              </span>
              <span className="min-w-0 leading-4">
                <span className="block truncate font-semibold text-xs">{level.name}</span>
                <span className="block truncate text-2xs text-soft tabular-nums">
                  {drawing && run
                    ? `${roleWord[drawing.role]}, ${frame - run.startFrame + 1} of ${frames}${frames > 1 ? `, ${timingWord(frames, nominalRate(project.rate))}` : ''}`
                    : 'blank'}
                </span>
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
});
