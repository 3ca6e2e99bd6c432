'use client';
import { memo } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Travel } from '@/core/analysis/motion';
import { MARGIN, pressedOf, TICK, TOOLTIP } from '@/features/check/graphs/axes';
import { NowMark } from '@/features/clock/NowMark';
import { goToFrame } from '@/features/project/navigation';

/** How far a level's drawings travel, in pixels a frame, where each shows; a press on a point goes there. */
export const TravelGraph = memo(function TravelGraph({ travel, firstNumber }: { travel: readonly Travel[]; firstNumber: number }) {
  const points = travel.map((step) => ({ ...step, frame: step.startFrame + firstNumber, speed: Math.round(step.pxPerFrame * 10) / 10 }));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={points} margin={MARGIN} onClick={(pressed) => goTo(pressedOf(points, pressed))}>
        <CartesianGrid vertical={false} stroke="var(--color-line)" />
        <XAxis dataKey="frame" type="number" domain={['dataMin', 'dataMax']} tick={TICK} stroke="var(--color-edge)" allowDecimals={false} />
        <YAxis tick={TICK} stroke="var(--color-edge)" unit=" px" width={62} />
        <Tooltip
          contentStyle={TOOLTIP}
          labelFormatter={(frame) => `Frame ${frame}`}
          formatter={(value, _name, entry) => [`${value} px a frame, ${entry.payload.number} to the next`, 'travel']}
        />
        <Line
          dataKey="speed"
          stroke="var(--color-moss)"
          strokeWidth={2}
          dot={{ r: 3, fill: 'var(--color-moss)' }}
          isAnimationActive={false}
        />
        <NowMark placeOf={(frame) => ({ at: frame + firstNumber })} />
      </LineChart>
    </ResponsiveContainer>
  );
});

const goTo = (point: { readonly startFrame: number } | undefined) => {
  if (point) goToFrame(point.startFrame);
};
