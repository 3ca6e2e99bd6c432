'use client';
import type { Drawing, Level, Shot } from '@/core/document/model';
import { sheetColumns } from '@/core/sheet/columns';
import { drawingShownAt, roleWord, timingWord } from '@/core/sheet/reading';
import { runAt } from '@/core/sheet/runs';
import { nominalRate } from '@/core/time/rate';
import { useCardClock } from '@/features/clock/useCardClock';
import { levelInView, useFrameOf, useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Thumb } from '@/features/sheet/Thumb';

const ROLE_LOOK = {
  key: 'rounded-full border-[3px] border-current px-4',
  breakdown: 'underline decoration-[3px] underline-offset-4',
  inbetween: '',
} as const;

function CardFace({ drawing }: { drawing: Drawing }) {
  const { size } = useProject();
  return (
    <span className="flex min-h-0 w-full flex-1 flex-col items-center justify-center gap-2">
      {drawing.picture && (
        <span className="block w-full max-w-44 overflow-hidden rounded border border-line">
          <Thumb size={size} widthPx={168} layers={[{ picture: drawing.picture, opacityPercent: 100 }]} />
        </span>
      )}
      <span className={`font-bold font-head tabular-nums ${drawing.picture ? 'text-3xl' : 'text-6xl'} ${ROLE_LOOK[drawing.role]}`}>
        {drawing.number}
      </span>
    </span>
  );
}

function Card({ level, frame, active, perSecond }: { level: Level; frame: number; active: boolean; perSecond: number }) {
  const drawing = drawingShownAt(level, frame);
  const run = runAt(level.exposures, frame);
  const frames = run ? run.endFrame - run.startFrame : 0;
  const look = !drawing ? 'border-line bg-transparent' : drawing.picture ? 'border-edge bg-paper' : 'border-edge border-dashed bg-paper';
  return (
    <li className="min-w-32 max-w-64 flex-1">
      <button
        type="button"
        aria-pressed={active}
        onClick={() => useViewStore.setState({ levelId: level.id, selection: null })}
        className={`flex h-full w-full flex-col rounded-xl border-2 p-2 ${active ? 'border-moss' : look} ${drawing ? 'bg-paper' : ''}`}
      >
        <span className="font-bold text-sm">{level.name}</span>
        {drawing ? <CardFace drawing={drawing} /> : <span className="flex flex-1 items-center justify-center text-soft">blank</span>}
        <span className="h-4 w-full truncate text-center text-soft text-xs tabular-nums">
          {drawing &&
            run &&
            `${roleWord[drawing.role]}, ${frame - run.startFrame + 1} of ${frames}${frames > 1 ? `, ${timingWord(frames, perSecond)}` : ''}`}
        </span>
        <span className="mt-1 flex h-2 w-full justify-center gap-[3px]" aria-hidden="true">
          {drawing &&
            run &&
            frames <= 16 &&
            Array.from({ length: frames }, (_, tick) => tick).map((tick) => (
              <span
                key={tick}
                className={`h-2 w-[3px] -skew-x-[20deg] rounded-sm ${tick <= frame - run.startFrame ? 'bg-moss' : 'bg-line'}`}
              />
            ))}
        </span>
      </button>
    </li>
  );
}

/** A card a level with the number of the drawing that shows, by the clock; drawn pictures appear on them as they come to exist. */
export function CardsBoard({ shot }: { shot: Shot }) {
  useCardClock();
  const project = useProject();
  const frame = useFrameOf(shot);
  const levelId = useViewStore((state) => state.levelId);
  const active = levelInView(shot, levelId);
  return (
    <ul className="flex min-h-0 flex-1 justify-center gap-2.5 overflow-x-auto p-1" aria-label="Drawings shown now">
      {sheetColumns(shot).map((level) => (
        <Card key={level.id} level={level} frame={frame} active={level.id === active?.id} perSecond={nominalRate(project.rate)} />
      ))}
    </ul>
  );
}
