'use client';
import { memo } from 'react';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { ExposureLength } from '@/core/analysis/motion';
import { MARGIN, pressedOf, TICK, TOOLTIP } from '@/features/check/graphs/axes';
import { NowMark } from '@/features/clock/NowMark';
import { goToFrame } from '@/features/project/navigation';

/** How long each exposure of a level stands, one after another; a press on a bar goes there. */
export const LengthGraph = memo(function LengthGraph({
  lengths,
  firstNumber,
}: {
  lengths: readonly ExposureLength[];
  firstNumber: number;
}) {
  const bars = lengths.map((length) => ({ ...length, frame: length.startFrame + firstNumber }));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <BarChart
        data={bars}
        margin={MARGIN}
        barCategoryGap={1}
        onClick={(pressed) => {
          const bar = pressedOf(bars, pressed);
          if (bar) goToFrame(bar.startFrame);
        }}
      >
        <CartesianGrid vertical={false} stroke="var(--color-line)" />
        <XAxis dataKey="frame" tick={TICK} stroke="var(--color-edge)" minTickGap={18} />
        <YAxis scale="sqrt" domain={[0, 'auto']} tick={TICK} stroke="var(--color-edge)" allowDecimals={false} unit=" fr" width={62} />
        <Tooltip
          cursor={{ fill: 'var(--color-sunk)' }}
          contentStyle={TOOLTIP}
          labelFormatter={(frame) => `From frame ${frame}`}
          formatter={(value, _name, entry) => [`${entry.payload.number} is held for ${value} frames`, 'length']}
        />
        <Bar dataKey="frames" fill="var(--color-moss)" isAnimationActive={false} />
        <NowMark
          placeOf={(frame) => {
            const bar = bars.find(({ startFrame, frames }) => frame >= startFrame && frame < startFrame + frames);
            return bar ? { at: bar.frame, isWholePlace: true } : null;
          }}
        />
      </BarChart>
    </ResponsiveContainer>
  );
});
