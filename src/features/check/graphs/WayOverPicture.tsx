'use client';
import type { MeasuredExposure } from '@/core/analysis/motion';
import type { Size } from '@/core/document/model';
import { useStillFrame } from '@/features/project/hooks';

/** The way the middle of a level's drawings takes, over the picture, with where it is now. */
export function WayOverPicture({ exposures, size }: { exposures: readonly MeasuredExposure[]; size: Size }) {
  const nowFrame = useStillFrame();
  const points = exposures.flatMap(({ measure, startFrame, frames }) =>
    measure.centre ? [{ ...measure.centre, startFrame, frames }] : [],
  );
  const radius = size.width / 220;
  return (
    <svg
      viewBox={`0 0 ${size.width} ${size.height}`}
      className="pointer-events-none absolute inset-0 h-full w-full"
      role="img"
      aria-label="The path of the drawing’s centre"
    >
      <polyline
        points={points.map(({ x, y }) => `${x},${y}`).join(' ')}
        fill="none"
        stroke="var(--color-teal)"
        strokeWidth={radius / 2}
        strokeOpacity={0.8}
      />
      {points.map(({ x, y, startFrame, frames }) => {
        const isNow = nowFrame >= startFrame && nowFrame < startFrame + frames;
        return (
          <circle
            key={startFrame}
            cx={x}
            cy={y}
            r={isNow ? radius * 1.8 : radius}
            fill={isNow ? 'var(--color-lime)' : 'var(--color-paper)'}
            stroke="var(--color-teal)"
            strokeWidth={radius / 2.5}
          />
        );
      })}
    </svg>
  );
}
