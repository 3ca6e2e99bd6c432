'use client';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { nominalRate } from '@/core/time/rate';
import { usePlayed, usePlayedFrame, usePlayedLoop } from '@/features/clock/played';
import { usePlayerStore } from '@/features/clock/playStore';
import { isReady, playedSize, useReadyStore } from '@/features/clock/previews';
import { useProject } from '@/features/project/hooks';
import { useCalm, useSoon } from '@/features/project/useCalm';
import { colourNow } from '@/ui/look';
import { paintStill } from '@/ui/stillCanvas';

const HEIGHT = 30;
const NARROWEST_TICK_PX = 3.2;
const READY_MILLISECONDS = 250;

/** Of more frames it isn't told which are ready: nobody could see them, and asking each again and again costs more than it tells. */
const MOST_FRAMES_TOLD = 20_000;

type Runs = readonly (readonly [number, number])[];

const sameRuns = (one: Runs, other: Runs): boolean =>
  one.length === other.length && one.every(([from, to], at) => from === other[at]?.[0] && to === other[at]?.[1]);

/** Runs of what is played whose pictures are ready to play, brought up to date a few times a second: frames from (inclusive) and to (exclusive). */
function useReadyRuns(): Runs {
  const played = useCalm(usePlayed());
  const lighter = usePlayerStore((state) => state.isShown && state.everySecond);
  const shrink = usePlayerStore((state) => state.shrink);
  const [ready, setReady] = useState<Runs>([]);
  useEffect(() => {
    if (!played || played.frames > MOST_FRAMES_TOLD) return;
    const size = playedSize(played.project, shrink, lighter);
    const look = () => {
      const { runs, stacks } = played.plan();
      const now = runs.flatMap(({ startFrame, frames, stack }) => {
        const shown = stacks[stack];
        return shown && isReady(size, shown) ? [[startFrame, startFrame + frames] as const] : [];
      });
      setReady((before) => (sameRuns(before, now) ? before : now));
    };
    // In a task of its own: an effect would be worked off before the next key is answered.
    let timer = window.setTimeout(() => {
      timer = 0;
      look();
    }, 0);
    const end = useReadyStore.subscribe(() => {
      timer ||= window.setTimeout(() => {
        timer = 0;
        look();
      }, READY_MILLISECONDS);
    });
    return () => {
      end();
      window.clearTimeout(timer);
    };
  }, [played, lighter, shrink]);
  return ready;
}

/** All that is played as a strip of leaning ticks, one a frame as long as they fit, underlined where pictures are ready to play; press or drag to go to a frame. */
export function TickStrip() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const project = useProject();
  const played = usePlayed();
  const frame = usePlayedFrame();
  const loop = usePlayedLoop();
  // A length that is set makes the film longer by a tick nobody sees among thousands: it is drawn once keys rest.
  const frames = useSoon(played?.frames ?? 1);
  const perSecond = nominalRate(project.rate);
  const ready = useReadyRuns();

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const draw = () => {
      const width = element.clientWidth;
      const ratio = window.devicePixelRatio;
      paintStill(element, width * ratio, HEIGHT * ratio, (context) => {
        context.scale(ratio, ratio);
        context.lineCap = 'round';
        const usable = width - 8;
        const every = Math.max(1, Math.ceil((frames * NARROWEST_TICK_PX) / usable));
        const place = (index: number) => 2 + ((index + 0.5) * usable) / frames;
        const tick = (index: number, tall: number, strokeStyle: string, lineWidth: number) => {
          const x = place(index);
          context.strokeStyle = strokeStyle;
          context.lineWidth = lineWidth;
          context.beginPath();
          context.moveTo(x, HEIGHT - 5);
          context.lineTo(x + tall * 0.2, HEIGHT - 5 - tall);
          context.stroke();
        };
        context.fillStyle = colourNow('moss');
        for (const [from, to] of ready) context.fillRect(2 + (from * usable) / frames, HEIGHT - 2, ((to - from) * usable) / frames, 1.5);
        for (let index = 0; index < frames; index += every) {
          const second = index % perSecond < every;
          const inLoop = loop !== null && index >= loop.fromFrame && index <= loop.toFrame;
          tick(index, second ? 16 : index % (perSecond / 2) < every ? 10 : 6, inLoop ? colourNow('lime') : '#bdbcae', inLoop ? 2 : 1.5);
        }
      });
    };
    draw();
    const observer = new ResizeObserver(draw);
    observer.observe(element);
    return () => observer.disconnect();
  }, [frames, loop, perSecond, ready]);

  const scrub = (event: PointerEvent<HTMLElement>) => {
    if (event.type === 'pointerdown') event.currentTarget.setPointerCapture(event.pointerId);
    else if (event.buttons === 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    played?.go(Math.floor(((event.clientX - box.left - 2) / (box.width - 8)) * frames));
  };

  return (
    <div
      className="relative h-[30px] min-w-24 flex-1 cursor-pointer touch-none overflow-x-clip"
      role="slider"
      tabIndex={0}
      aria-label="Frame"
      aria-valuemin={project.firstFrameNumber}
      aria-valuemax={project.firstFrameNumber + frames - 1}
      aria-valuenow={project.firstFrameNumber + Math.min(frame, frames - 1)}
      onPointerDown={scrub}
      onPointerMove={scrub}
      onKeyDown={(event) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: perSecond, PageDown: -perSecond }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        played?.go(frame + by);
      }}
    >
      <canvas ref={canvas} className="block h-full w-full" />
      <div
        className="pointer-events-none absolute inset-x-0 bottom-[5px] h-[19px]"
        style={{ transform: `translateX(calc(0.5px + (100% - 8px) * ${(Math.min(frame, frames - 1) + 0.5) / frames}))` }}
      >
        <div className="h-full w-[3px] origin-bottom skew-x-[-11deg] rounded-full bg-ink" />
      </div>
    </div>
  );
}
