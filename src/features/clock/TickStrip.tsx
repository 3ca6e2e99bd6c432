'use client';
import { type PointerEvent, useEffect, useRef } from 'react';
import { nominalRate } from '@/core/time/rate';
import { useProject, useShot } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';

const HEIGHT = 30;
const NARROWEST_TICK_PX = 3.2;

/** The whole shot as a strip of leaning ticks, one a frame as long as they fit; press or drag to go to a frame. */
export function TickStrip() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const project = useProject();
  const shot = useShot();
  const frame = useViewStore((state) => state.frame);
  const loop = useViewStore((state) => state.loop);
  const frames = shot?.frames ?? 1;
  const perSecond = nominalRate(project.rate);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const draw = () => {
      const width = element.clientWidth;
      const ratio = window.devicePixelRatio;
      element.width = width * ratio;
      element.height = HEIGHT * ratio;
      const context = element.getContext('2d');
      if (!context) return;
      const style = getComputedStyle(element);
      const colour = (name: string) => style.getPropertyValue(`--color-${name}`);
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
      for (let index = 0; index < frames; index += every) {
        const second = index % perSecond < every;
        const inLoop = loop !== null && index >= loop.fromFrame && index <= loop.toFrame;
        tick(index, second ? 16 : index % (perSecond / 2) < every ? 10 : 6, inLoop ? colour('lime') : '#bdbcae', inLoop ? 2 : 1.5);
      }
    };
    draw();
    const observer = new ResizeObserver(draw);
    observer.observe(element);
    return () => observer.disconnect();
  }, [frames, loop, perSecond]);

  const scrub = (event: PointerEvent<HTMLElement>) => {
    if (event.type === 'pointerdown') event.currentTarget.setPointerCapture(event.pointerId);
    else if (event.buttons === 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    goToFrame(Math.floor(((event.clientX - box.left - 2) / (box.width - 8)) * frames));
  };

  return (
    <div
      className="relative h-[30px] min-w-24 flex-1 touch-none cursor-pointer"
      role="slider"
      tabIndex={0}
      aria-label="Frame"
      aria-valuemin={project.startFrame}
      aria-valuemax={project.startFrame + frames - 1}
      aria-valuenow={project.startFrame + Math.min(frame, frames - 1)}
      onPointerDown={scrub}
      onPointerMove={scrub}
      onKeyDown={(event) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: perSecond, PageDown: -perSecond }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        goToFrame(frame + by);
      }}
    >
      <canvas ref={canvas} height={HEIGHT} className="block h-full w-full" />
      <div
        className="pointer-events-none absolute bottom-[5px] h-[19px] w-[3px] origin-bottom skew-x-[-11deg] rounded-full bg-ink"
        style={{ left: `calc(0.5px + (100% - 8px) * ${(Math.min(frame, frames - 1) + 0.5) / frames})` }}
      />
    </div>
  );
}
