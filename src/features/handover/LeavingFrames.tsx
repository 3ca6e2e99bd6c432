'use client';
import type { RenderPlan } from '@/core/render/renderPlan';
import { countText, plural } from '@/core/time/counts';
import { Thumb } from '@/features/sheet/Thumb';

const SHOWN = 12;

/** Frames handed over, evenly picked, and how many distinct pictures they come to. */
export function LeavingFrames({ plan }: { plan: RenderPlan }) {
  const count = Math.min(SHOWN, plan.frames);
  const frames = Array.from({ length: count }, (_, index) => (count === 1 ? 0 : Math.round((index * (plan.frames - 1)) / (count - 1))));
  return (
    <section aria-label="Frames handed over" className="border-line border-b p-3.5">
      <h2 className="mb-2 font-bold">
        Frames handed over{' '}
        <span className="font-normal text-soft">
          {countText(plan.frames)} from {plural(plan.stacks.length, 'distinct picture')}, each made once
        </span>
      </h2>
      <ol className="grid grid-cols-6 gap-1.5">
        {frames.map((frame) => {
          const run = plan.runs.findLast((candidate) => candidate.startFrame <= frame);
          return (
            <li key={frame}>
              <span className="block overflow-hidden rounded-md border border-line">
                <Thumb
                  size={plan.size}
                  widthPx={92}
                  layers={(run && plan.stacks[run.stack]?.layers) ?? []}
                  label={`Frame ${frame + plan.firstNumber}`}
                />
              </span>
              <span className="numbers block text-center text-2xs text-soft">{frame + plan.firstNumber}</span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
