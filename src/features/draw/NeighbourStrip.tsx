'use client';
import { memo } from 'react';
import { type Drawing, drawingById, type Level, type Shot, type Size } from '@/core/document/model';
import { placedRuns } from '@/core/sheet/runs';
import { useDrawnBox } from '@/features/draw/useDrawnBox';
import { useFrameOf } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useSoon } from '@/features/project/useCalm';
import { DrawingNumber } from '@/features/sheet/DrawingNumber';
import { type Crop, Thumb } from '@/features/sheet/Thumb';

const EACH_SIDE = 3;

type Props = { drawing: Drawing; startFrame: number; startNumber: number; isHere: boolean; size: Size; crop: Crop | undefined };

/** One of them, which is the same for as long as one stays on the same drawing. */
const Neighbour = memo(function Neighbour({ drawing, startFrame, startNumber, isHere, size, crop }: Props) {
  const { number, picture } = drawing;
  return (
    <button
      type="button"
      onClick={() => goToFrame(startFrame)}
      aria-current={isHere || undefined}
      aria-label={`Drawing ${number}, frame ${startNumber}${picture ? '' : ', not drawn yet'}`}
      className={`relative w-[92px] min-w-14 shrink overflow-hidden rounded-lg border bg-white ${isHere ? 'border-2 border-moss' : picture ? 'border-line hover:border-edge' : 'border-edge border-dashed'}`}
    >
      <span className="absolute top-0.5 left-1 z-10 rounded bg-white/80">
        <DrawingNumber drawing={drawing} />
      </span>
      <span className="absolute inset-x-0 bottom-0">
        <Thumb crop={crop} size={size} widthPx={92} layers={picture ? [{ picture, opacityPercent: 100 }] : []} />
      </span>
    </button>
  );
});

/** The drawings around the one of now, to look at side by side and to go to. They follow once keys rest: the paper comes first. */
export function NeighbourStrip({ shot, level, size, firstNumber }: { shot: Shot; level: Level; size: Size; firstNumber: number }) {
  const frame = Math.min(useSoon(useFrameOf(shot)), shot.frames - 1);
  const runs = placedRuns(level.exposures).filter((run) => run.drawing !== null);
  const here = runs.findIndex((run) => run.endFrame > frame);
  const middle = here === -1 ? runs.length - 1 : here;
  const from = Math.max(0, Math.min(middle - EACH_SIDE, runs.length - (EACH_SIDE * 2 + 1)));
  const shown = runs.slice(from, from + EACH_SIDE * 2 + 1);
  const crop = useDrawnBox(shown.flatMap((run) => drawingById(level, run.drawing)?.picture ?? [])) ?? undefined;
  return (
    <div className="-m-1 flex h-[80px] justify-center gap-2 overflow-hidden p-1" role="toolbar" aria-label="Neighbouring drawings">
      {shown.map((run) => {
        const drawing = drawingById(level, run.drawing);
        if (!drawing) return null;
        return (
          <Neighbour
            key={run.startFrame}
            drawing={drawing}
            startFrame={run.startFrame}
            startNumber={run.startFrame + firstNumber}
            isHere={frame >= run.startFrame && frame < run.endFrame}
            size={size}
            crop={crop}
          />
        );
      })}
    </div>
  );
}
