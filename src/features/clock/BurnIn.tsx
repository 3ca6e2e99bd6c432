'use client';
import { countsOfMoment } from '@/core/time/counts';
import { useProject, useShot } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

/** The counts of now, large on the picture; they never leave. */
export function BurnIn() {
  const project = useProject();
  const shot = useShot();
  const frame = useViewStore((state) => state.frame);
  if (!shot) return null;
  const counts = countsOfMoment(Math.min(frame, shot.frames - 1), project.rate, project.firstFrameNumber);
  return (
    <div
      aria-hidden="true"
      className="pointer-events-none absolute inset-x-0 bottom-0 flex items-baseline justify-between bg-ink/75 px-4 py-1.5 text-paper"
    >
      <span className="numbers text-base">
        {shot.code} · {counts.timecode} · {counts.footage}
      </span>
      <span className="font-bold font-head text-4xl tabular-nums">{counts.frame}</span>
    </div>
  );
}
