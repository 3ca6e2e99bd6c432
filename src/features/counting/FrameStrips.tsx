'use client';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { FRAMES_IN_STRIP, goToFrame, useDeskStore } from '@/features/counting/deskStore';
import { FramePicture } from '@/features/counting/FramePicture';
import type { Side } from '@/features/counting/framePictures';
import { Button } from '@/ui/Button';
import type { DeskHeld } from '@/workers/client';

const THUMB_PX = 96;
const ICON = { size: 14, 'aria-hidden': true } as const;

export type StripSide = {
  readonly side: Side;
  readonly name: string;
  readonly frames: number;
  readonly size: { readonly width: number; readonly height: number };
};

type Marks = { readonly held: DeskHeld; readonly firstNumber: number };

/** Frames of one side from the one the strips begin with. */
function Strip({
  of,
  from,
  chosen,
  isWrong,
  number,
  onChoose,
}: {
  of: StripSide;
  from: number;
  chosen: number;
  isWrong: (frame: number) => boolean;
  number: (frame: number) => string;
  onChoose: (frame: number) => void;
}) {
  const frames = Array.from({ length: FRAMES_IN_STRIP }, (_, index) => from + index);
  return (
    <ol
      className="grid gap-1"
      style={{ gridTemplateColumns: `repeat(${FRAMES_IN_STRIP}, minmax(0, 1fr))` }}
      aria-label={`Frames of ${of.name}`}
    >
      {frames.map((frame) => (
        <li key={frame} className="min-w-0">
          {frame < of.frames && (
            <button
              type="button"
              aria-pressed={frame === chosen}
              aria-label={`${of.name}, frame ${number(frame)}${isWrong(frame) ? ', not as planned' : ''}`}
              onClick={() => onChoose(frame)}
              className="block w-full text-center"
            >
              <FramePicture
                side={of.side}
                frame={frame}
                widthPx={THUMB_PX}
                size={of.size}
                className={`w-full rounded border-2 ${isWrong(frame) ? 'border-rust' : frame === chosen ? 'border-ink' : 'border-line'}`}
              />
              <span
                className={`numbers block text-2xs ${isWrong(frame) ? 'font-bold text-rust' : ''} ${frame === chosen ? 'underline' : ''}`}
              >
                {number(frame)}
              </span>
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}

/** Strokes from each frame of the plan to the one of the file that stands for it: they lean where the two part. */
function Strokes({ held, from }: { held: DeskHeld; from: number }) {
  const { fileOf, isSame } = held;
  if (!fileOf || !isSame) return null;
  const x = (frame: number) => ((frame - from + 0.5) * 1000) / FRAMES_IN_STRIP;
  const frames = Array.from({ length: FRAMES_IN_STRIP }, (_, index) => from + index).filter((frame) => frame < held.planFrames);
  return (
    <svg viewBox="0 0 1000 34" preserveAspectRatio="none" className="my-0.5 h-8 w-full" aria-hidden="true">
      {frames.map((frame) => {
        const file = fileOf[frame] ?? -1;
        const right = file === frame && isSame[frame] === 1;
        if (file < 0)
          return (
            <path
              key={frame}
              d={`M${x(frame)} 2v10`}
              className="stroke-rust"
              strokeWidth="2"
              strokeDasharray="3 3"
              vectorEffect="non-scaling-stroke"
            />
          );
        return (
          <path
            key={frame}
            d={`M${x(frame)} 2L${x(file)} 32`}
            className={right ? 'stroke-[#9dbd1c]' : 'stroke-rust'}
            strokeWidth="2"
            strokeDasharray={isSame[frame] === 1 ? undefined : '4 3'}
            fill="none"
            vectorEffect="non-scaling-stroke"
          />
        );
      })}
    </svg>
  );
}

/** The frames of the file that are not the plan's of their own number. */
function wrongFrames({ fileOf, isSame }: DeskHeld): (fileFrame: number) => boolean {
  if (!fileOf || !isSame) return () => false;
  const right = new Set<number>();
  for (const [planFrame, file] of fileOf.entries()) if (file >= 0 && isSame[planFrame] === 1) right.add(file);
  return (fileFrame) => !right.has(fileFrame);
}

const OWN_ARROWS = 'input, textarea, select, [role="slider"], [role="separator"], [role="radiogroup"], [role="menu"], [role="dialog"]';

/** On the desk the arrow keys left and right step along the strips, wherever the focus is that has no use for them itself. */
function useArrows(move: (by: number) => void): void {
  const latest = useRef(move);
  latest.current = move;
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if ((event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') || event.altKey || event.ctrlKey || event.metaKey || event.shiftKey)
        return;
      if (event.target instanceof Element && event.target.closest(OWN_ARROWS)) return;
      event.preventDefault();
      latest.current(event.key === 'ArrowLeft' ? -1 : 1);
    };
    // Before the shortcuts of the program, which pass over a key that was taken.
    window.addEventListener('keydown', onKeyDown, { capture: true });
    return () => window.removeEventListener('keydown', onKeyDown, { capture: true });
  }, []);
}

/** Strips of frames above each other, the plan's and the file's, with where they part; one alone where there is nothing to hold against. */
export function FrameStrips({ plan, file, marks }: { plan: StripSide | null; file: StripSide; marks: Marks | null }) {
  const from = useDeskStore((state) => state.fromFrame);
  const frame = useDeskStore((state) => state.frame);
  const number = (each: number) => `${each + (marks?.firstNumber ?? 1)}`;
  const isWrong = marks ? wrongFrames(marks.held) : () => false;
  const last = Math.max(plan?.frames ?? 0, file.frames) - 1;
  const move = (by: number) => goToFrame(Math.max(0, Math.min(last, frame + by)));
  useArrows(move);
  const turn = (by: number) =>
    useDeskStore.setState({ fromFrame: Math.max(0, Math.min(Math.max(0, last - FRAMES_IN_STRIP + 1), from + by)) });
  return (
    <section aria-label="Frames beside each other">
      {plan && (
        <>
          <h3 className="mb-1 text-xs">
            {plan.name} <span className="numbers text-soft">{plan.frames}</span>
          </h3>
          <Strip of={plan} from={from} chosen={frame} isWrong={() => false} number={number} onChoose={goToFrame} />
          {marks && <Strokes held={marks.held} from={from} />}
        </>
      )}
      <Strip of={file} from={from} chosen={frame} isWrong={isWrong} number={number} onChoose={goToFrame} />
      <div className="mt-1 flex items-center gap-2">
        <h3 className="min-w-0 flex-1 truncate text-xs">
          {file.name} <span className="numbers text-soft">{file.frames}</span>
        </h3>
        <Button tight kind="quiet" aria-label="Earlier frames" onClick={() => turn(-FRAMES_IN_STRIP)} disabled={from === 0}>
          <ChevronLeft {...ICON} />
        </Button>
        <input
          type="range"
          min={0}
          max={Math.max(0, last)}
          value={frame}
          aria-label="Frame"
          aria-valuetext={`frame ${number(frame)}`}
          onChange={(event) => goToFrame(Number(event.target.value))}
          className="min-h-6 w-56 accent-[#55700A]"
        />
        <Button tight kind="quiet" aria-label="Later frames" onClick={() => turn(FRAMES_IN_STRIP)} disabled={from + FRAMES_IN_STRIP > last}>
          <ChevronRight {...ICON} />
        </Button>
      </div>
    </section>
  );
}
