'use client';
import { memo } from 'react';
import { CartesianGrid, Legend, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { SizeAgainst } from '@/core/analysis/motion';
import { MARGIN, pressedOf, TICK, TOOLTIP } from '@/features/check/graphs/axes';
import { NowMark } from '@/features/clock/NowMark';
import { goToFrame } from '@/features/project/navigation';

const whole = (percent: number) => Math.round(percent * 10) / 10;

/** Ink and box of a level's drawings against a reference drawing, in percent; a press on a point goes there. */
export const SizeGraph = memo(function SizeGraph({ sizes, firstNumber }: { sizes: readonly SizeAgainst[]; firstNumber: number }) {
  const points = sizes.map((size) => ({
    ...size,
    frame: size.startFrame + firstNumber,
    ink: whole(size.inkPercent),
    box: whole(size.boxPercent),
  }));
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart
        data={points}
        margin={MARGIN}
        onClick={(pressed) => {
          const point = pressedOf(points, pressed);
          if (point) goToFrame(point.startFrame);
        }}
      >
        <CartesianGrid vertical={false} stroke="var(--color-line)" />
        <XAxis dataKey="frame" type="number" domain={['dataMin', 'dataMax']} tick={TICK} stroke="var(--color-edge)" allowDecimals={false} />
        <YAxis tick={TICK} stroke="var(--color-edge)" unit=" %" width={62} />
        <Tooltip contentStyle={TOOLTIP} labelFormatter={(frame) => `Frame ${frame}`} formatter={(value, name) => [`${value} %`, name]} />
        <Legend iconType="plainline" wrapperStyle={{ fontSize: 12 }} />
        <ReferenceLine y={100} stroke="var(--color-edge)" strokeDasharray="4 3" />
        <Line dataKey="ink" name="ink" stroke="var(--color-moss)" strokeWidth={2} dot={{ r: 2.5 }} isAnimationActive={false} />
        <Line
          dataKey="box"
          name="box around it"
          stroke="var(--color-teal)"
          strokeWidth={2}
          strokeDasharray="5 3"
          dot={{ r: 2.5 }}
          isAnimationActive={false}
        />
        <NowMark placeOf={(frame) => ({ at: frame + firstNumber })} />
      </LineChart>
    </ResponsiveContainer>
  );
});
