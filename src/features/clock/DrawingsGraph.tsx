'use client';
import { memo, useMemo, useState } from 'react';
import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { drawingsPerSecond, wholePlace } from '@/core/chart/workload';
import { firstPlaceOf, placedItems, shotAt } from '@/core/reel/reel';
import { nominalRate } from '@/core/time/rate';
import { NowMark } from '@/features/clock/NowMark';
import { useCalmView } from '@/features/project/calmProject';
import { goToFrame, goToShot } from '@/features/project/navigation';
import { Choice } from '@/ui/Choice';

type Scope = 'shot' | 'film';

const TICK = { fontSize: 11, fill: 'var(--color-soft)' };

/** How many drawings change and how many are new in each second, of the shot or the film; a press on a second goes there. */
export const DrawingsGraph = memo(function DrawingsGraph() {
  const { project, shot } = useCalmView();
  const [scope, setScope] = useState<Scope>('film');
  const perSecond = nominalRate(project.rate);
  const places = useMemo(() => (scope === 'film' || !shot ? placedItems(project) : [wholePlace(shot)]), [scope, shot, project]);
  const seconds = useMemo(() => drawingsPerSecond(places, project.rate), [places, project.rate]);
  const placed = scope === 'film' && shot ? firstPlaceOf(project, shot.id) : undefined;
  const shotStart = placed ? placed.startFrame - placed.fromFrame : 0;
  const go = (second: number) => {
    const at = second * perSecond;
    const there = scope === 'film' ? shotAt(project, at) : undefined;
    if (there) goToShot(there.shot.id, at - there.startFrame + there.fromFrame);
    else if (scope === 'shot') goToFrame(at);
  };
  const most = seconds.reduce((largest, second) => (second.changes > largest.changes ? second : largest), {
    second: 0,
    changes: 0,
    fresh: 0,
  });
  return (
    <div className="flex h-full flex-col gap-1 p-2.5">
      <div className="flex items-center gap-3 px-1">
        <p className="text-soft text-xs">
          Most in second {most.second}: {most.changes} changes, {most.fresh} of them drawings that show there first.
        </p>
        <span className="ml-auto">
          <Choice
            label="Drawings a second of"
            value={scope}
            options={[
              { value: 'shot', label: `shot ${shot?.code ?? ''}` },
              { value: 'film', label: 'film' },
            ]}
            onChange={setScope}
          />
        </span>
      </div>
      <div className="min-h-0 flex-1">
        <ResponsiveContainer width="100%" height="100%">
          <BarChart
            data={seconds}
            margin={{ top: 6, right: 10, bottom: 0, left: -18 }}
            barGap={0}
            onClick={(state) => {
              const index = Number(state.activeTooltipIndex ?? -1);
              if (index >= 0) go(index);
            }}
          >
            <CartesianGrid vertical={false} stroke="var(--color-line)" />
            <XAxis dataKey="second" tick={TICK} stroke="var(--color-edge)" unit=" s" minTickGap={24} />
            <YAxis tick={TICK} stroke="var(--color-edge)" allowDecimals={false} />
            <Tooltip
              cursor={{ fill: 'var(--color-sunk)' }}
              contentStyle={{ background: 'var(--color-paper)', border: '1px solid var(--color-line)', borderRadius: 8, fontSize: 12 }}
              labelFormatter={(second) => `Second ${second}, frame ${Number(second) * perSecond + project.firstFrameNumber} on`}
            />
            <Legend iconType="square" wrapperStyle={{ fontSize: 12 }} />
            <Bar dataKey="changes" name="drawings change" fill="var(--color-edge)" isAnimationActive={false} />
            <Bar dataKey="fresh" name="shown for the first time" fill="var(--color-moss)" isAnimationActive={false} />
            <NowMark placeOf={(frame) => ({ at: Math.floor((shotStart + frame) / perSecond) })} />
          </BarChart>
        </ResponsiveContainer>
      </div>
    </div>
  );
});
