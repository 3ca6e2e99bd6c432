'use client';
import type { PointerEvent } from 'react';
import { framesOfReel } from '@/core/reel/reel';
import { type Sight, scrollBy } from '@/features/assemble/reelView';
import { useProject } from '@/features/project/hooks';

/** The whole reel as a bar with the part of it that is in sight; dragged, it scrolls. Nothing while all is in sight. */
export function ReelOverview({ sight }: { sight: Sight }) {
  const total = framesOfReel(useProject());
  const seen = sight.rightFrame - sight.leftFrame;
  if (seen >= total) return <div className="h-2.5" />;
  const centre = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    scrollBy(((event.clientX - box.left) / box.width) * total - seen / 2 - sight.leftFrame, total);
  };
  return (
    <div
      className="relative h-2.5 touch-none cursor-pointer rounded-full bg-sunk"
      title="The part of the reel in sight: press or drag to see another"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        centre(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && centre(event)}
    >
      <span
        className="absolute inset-y-0 rounded-full border border-edge bg-line"
        style={{ left: `${(sight.leftFrame * 100) / total}%`, width: `max(10px, ${(seen * 100) / total}%)` }}
      />
    </div>
  );
}
