'use client';
import { Slider } from 'radix-ui';
import { type PointerEvent, useMemo, useRef } from 'react';
import type { Outcome } from '@/core/outcome';
import { plainPlanOf } from '@/core/output/leaving';
import { chosenRange, framesToChoose, type NamedLeaving, type Recipe } from '@/core/output/recipe';
import { stackAtFrame } from '@/core/render/renderPlan';
import { plural } from '@/core/time/counts';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { useProject } from '@/features/project/hooks';
import { Thumb } from '@/features/sheet/Thumb';

const SHOWN = 12;

/** The range that is chosen, kept within what there is; and how another is chosen: all of it is no range. */
function useRange() {
  const project = useProject();
  const recipe = useHandoverStore((state) => state.recipe);
  const total = framesToChoose(project, recipe.shotId);
  const first = project.firstFrameNumber;
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  const within = (frame: number, otherwise: number) => (Number.isFinite(frame) ? Math.max(0, Math.min(total - 1, frame)) : otherwise);
  const choose = (from: number, to: number) => {
    const isAll = from === 0 && to === total - 1;
    const text = (frame: number) => (isAll ? '' : String(frame + first));
    useHandoverStore.setState(({ recipe: now }) => ({ recipe: { ...now, fromText: text(from), toText: text(to) } }));
  };
  return { project, recipe, total, first, from: within(fromFrame, 0), to: within(toFrame, total - 1), choose };
}

/** Whether the pictures are gone over for their colours first, after which some may be made again. */
const isSeenFirst = ({ formatId, options }: Recipe): boolean =>
  formatId === 'gif' && options.kind === 'loop' && options.palette === 'whole';

/** Pictures of the whole shot, level or reel, with its background or without as it leaves: those that leave as they are and the others pale; dragging over them chooses a range, and so do the ends beneath. */
export function LeavingFrames({ leaving }: { leaving: Outcome<NamedLeaving> }) {
  const { project, recipe, total, first, from, to, choose } = useRange();
  const { shotId, levelId, withBackground } = recipe;
  const planned = useMemo(
    () => (total > 0 ? plainPlanOf(project, { shotId, levelId, fromFrame: 0, toFrame: total - 1, withBackground }) : null),
    [project, total, shotId, levelId, withBackground],
  );
  const draggedFrom = useRef<number | null>(null);
  if (!planned?.ok) return null;
  const whole = planned.value;
  const count = Math.min(SHOWN, total);
  const frames = Array.from({ length: count }, (_, index) => (count === 1 ? 0 : Math.round((index * (total - 1)) / (count - 1))));
  const frameUnder = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.max(0, Math.min(total - 1, Math.floor(((event.clientX - box.left) / box.width) * total)));
  };
  return (
    <section aria-label="Frames handed over" className="border-line border-b p-3.5">
      <h2 className="mb-2 font-bold">
        What is handed over{' '}
        {leaving.ok && (
          <span className="font-normal text-soft">
            {plural(leaving.value.plan.frames, 'frame')} from {plural(leaving.value.plan.stacks.length, 'distinct picture')}
            {!isSeenFirst(recipe) && ', each made once'}
          </span>
        )}
      </h2>
      <div
        className="touch-none cursor-col-resize select-none"
        title="Drag over the pictures to choose a range"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          draggedFrom.current = frameUnder(event);
        }}
        onPointerMove={(event) => {
          const start = draggedFrom.current;
          if (start === null || event.buttons === 0) return;
          const now = frameUnder(event);
          if (now !== start) choose(Math.min(start, now), Math.max(start, now));
        }}
        onPointerUp={() => {
          draggedFrom.current = null;
        }}
      >
        <ol className="grid gap-1" style={{ gridTemplateColumns: `repeat(${count}, minmax(0, 1fr))` }}>
          {frames.map((frame) => (
            <li key={frame} className={frame < from || frame > to ? 'opacity-30' : ''}>
              <span className="block overflow-hidden rounded border border-line">
                <Thumb
                  size={whole.composedSize ?? whole.size}
                  widthPx={60}
                  layers={stackAtFrame(whole, frame).layers}
                  label={`Frame ${frame + first}`}
                />
              </span>
              <span className="numbers block text-center text-2xs text-soft">{frame + first}</span>
            </li>
          ))}
        </ol>
      </div>
      <Slider.Root
        className="relative mt-1 flex h-5 w-full touch-none select-none items-center"
        aria-label="Range"
        value={[from, to]}
        min={0}
        max={total - 1}
        onValueChange={([low, high]) => low !== undefined && high !== undefined && choose(low, high)}
      >
        <Slider.Track className="relative h-1.5 grow rounded-full bg-line">
          <Slider.Range className="absolute h-full rounded-full bg-lime" />
        </Slider.Track>
        <Slider.Thumb
          aria-label="First frame that leaves"
          aria-valuetext={`frame ${from + first}`}
          className="block h-4 w-2.5 rounded border border-edge bg-paper"
        />
        <Slider.Thumb
          aria-label="Last frame that leaves"
          aria-valuetext={`frame ${to + first}`}
          className="block h-4 w-2.5 rounded border border-edge bg-paper"
        />
      </Slider.Root>
      <p className="numbers text-center text-2xs text-soft">
        {from + first} to {to + first}
      </p>
    </section>
  );
}
