'use client';
import { Bar, BarChart, CartesianGrid, Cell, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { ExposureLength } from '@/core/analysis/motion';
import { MARGIN, pressedOf, TICK, TOOLTIP } from '@/features/check/graphs/axes';
import { goToFrame } from '@/features/project/navigation';

/** How long each exposure of a level stands, one after another; a press on a bar goes there. */
export function LengthGraph({
  lengths,
  firstNumber,
  nowFrame,
}: {
  lengths: readonly ExposureLength[];
  firstNumber: number;
  nowFrame: number;
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
        <Bar dataKey="frames" isAnimationActive={false}>
          {bars.map((bar) => {
            const isNow = nowFrame >= bar.startFrame && nowFrame < bar.startFrame + bar.frames;
            return <Cell key={bar.startFrame} fill={isNow ? 'var(--color-lime)' : 'var(--color-moss)'} />;
          })}
        </Bar>
      </BarChart>
    </ResponsiveContainer>
  );
}
