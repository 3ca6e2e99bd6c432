'use client';
import { type PointerEvent, useEffect, useRef } from 'react';
import { framesOfReel } from '@/core/reel/reel';
import { nominalRate } from '@/core/time/rate';
import { frameAt, type Sight, xOf } from '@/features/assemble/reelView';
import { useProject } from '@/features/project/hooks';
import { goToReelFrame } from '@/features/project/navigation';
import { colourNow } from '@/ui/look';

const HEIGHT = 30;
/** Numbers stand at least so far apart, ticks of single frames and of seconds so far. */
const NUMBER_PX = 62;
const TICK_PX = 4;

/** Steps between numbers, in frames: single frames, then whole seconds and minutes. */
const stepsAt = (perSecond: number): readonly number[] => [
  1,
  2,
  ...[6, 12].filter((frames) => frames < perSecond),
  ...[1, 2, 5, 10, 30, 60, 120, 300, 600, 1800, 3600, 7200].map((seconds) => seconds * perSecond),
];

/** The measure of the reel: a leaning tick a frame as long as they fit, else one a second, with numbers; press or drag to go to a frame. */
export function ReelRuler({ sight }: { sight: Sight }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const project = useProject();
  const total = framesOfReel(project);
  const perSecond = nominalRate(project.rate);
  const first = project.firstFrameNumber;

  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    const ratio = window.devicePixelRatio;
    element.width = sight.widthPx * ratio;
    element.height = HEIGHT * ratio;
    context.scale(ratio, ratio);
    const style = getComputedStyle(element);
    const numberStep = stepsAt(perSecond).find((step) => step * sight.scale >= NUMBER_PX) ?? 7200 * perSecond;
    const tickStep = sight.scale >= TICK_PX ? 1 : sight.scale * perSecond >= TICK_PX ? perSecond : numberStep;
    context.lineCap = 'round';
    context.lineWidth = 1.5;
    context.font = `11px ${style.fontFamily}`;
    context.fillStyle = colourNow('soft');
    const from = Math.floor(sight.leftFrame / tickStep) * tickStep;
    for (let frame = from; frame <= Math.min(total, sight.rightFrame); frame += tickStep) {
      const x = xOf(frame, sight);
      const isNumbered = frame % numberStep === 0;
      const tall = isNumbered ? 12 : frame % perSecond === 0 ? 9 : 5;
      context.strokeStyle = isNumbered ? colourNow('edge') : '#c9c8bb';
      context.beginPath();
      context.moveTo(x + 0.75, HEIGHT - 1);
      context.lineTo(x + 0.75 + tall * 0.2, HEIGHT - 1 - tall);
      context.stroke();
      if (isNumbered && frame < total) context.fillText(String(frame + first), x + 5, 13);
    }
  }, [sight, total, perSecond, first]);

  const scrub = (event: PointerEvent<HTMLElement>) => {
    if (event.type === 'pointerdown') event.currentTarget.setPointerCapture(event.pointerId);
    else if (event.buttons === 0) return;
    goToReelFrame(frameAt(event.clientX - event.currentTarget.getBoundingClientRect().left, sight));
  };
  return (
    <div
      className="numbers h-[30px] touch-none cursor-pointer"
      onPointerDown={scrub}
      onPointerMove={scrub}
      title="Press or drag to go to a frame"
    >
      <canvas ref={canvas} className="block h-full w-full" />
    </div>
  );
}
