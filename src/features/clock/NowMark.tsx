'use client';
import { DefaultZIndexes, usePlotArea, useXAxisScale, ZIndexLayer } from 'recharts';
import { useStillFrame } from '@/features/project/hooks';

/** A span of a graph's horizontal axis, by the values that stand on it: one value, or the whole place of one in a row of bars. */
export type MarkedPlace = { readonly at: number | string; readonly isWholePlace?: boolean };

/**
 * Where the current frame is in a graph it stands in; `placeOf` gives the place of a frame, null where it is on none. A graph takes
 * many times as long to be drawn as a step may, and only this follows the frame.
 */
export function NowMark({ placeOf }: { placeOf: (frame: number) => MarkedPlace | null }) {
  const frame = useStillFrame();
  const area = usePlotArea();
  const scale = useXAxisScale();
  const place = frame < 0 ? null : placeOf(frame);
  if (!place || !area || !scale) return null;
  const { at, isWholePlace = false } = place;
  const from = scale(at, { position: isWholePlace ? 'start' : 'middle' });
  const to = isWholePlace ? scale(at, { position: 'end' }) : from;
  if (from === undefined || to === undefined || from < area.x - 1 || to > area.x + area.width + 1) return null;
  const width = Math.max(3, to - from);
  return (
    <ZIndexLayer zIndex={DefaultZIndexes.line}>
      <rect
        data-testid="now-in-graph"
        x={(from + to - width) / 2}
        y={area.y}
        width={width}
        height={area.height}
        fill="var(--color-lime)"
        opacity={0.7}
        pointerEvents="none"
      />
    </ZIndexLayer>
  );
}
