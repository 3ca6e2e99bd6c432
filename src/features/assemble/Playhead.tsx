'use client';
import { useEffect } from 'react';
import { framesOfReel } from '@/core/reel/reel';
import { bringIntoSight, type Sight, xOf } from '@/features/assemble/reelView';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

/** The reel's current frame over all that stands beneath the measure; it stays in sight. */
export function Playhead({ sight }: { sight: Sight }) {
  const frame = useViewStore((state) => state.reelFrame);
  const total = framesOfReel(useProject());
  useEffect(() => bringIntoSight(frame, total), [frame, total]);
  const x = xOf(frame, sight);
  if (x < 0 || x > sight.widthPx) return null;
  return (
    <span
      aria-hidden="true"
      className="pointer-events-none absolute inset-y-0 z-20 border-ink border-l-2 bg-lime/25"
      style={{ left: x - 1, width: Math.max(2, sight.scale) }}
    />
  );
}
