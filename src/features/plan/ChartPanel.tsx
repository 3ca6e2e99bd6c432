'use client';
import { memo, useState } from 'react';
import { chartFor, keepChart } from '@/core/chart/chartEdits';
import { reshaped, withoutTick, withTickAdded } from '@/core/chart/chartTicks';
import { chartTrouble } from '@/core/chart/fit';
import { type KeyPair, pairAt, spanOf } from '@/core/chart/pair';
import { DRAWABLE_PARTS, type MadeShape, roundedPlaces, shapeWords } from '@/core/chart/shapes';
import { inbetweensThatFit, mostInbetweens } from '@/core/chart/span';
import type { Level, Shot } from '@/core/document/model';
import { MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { plural } from '@/core/time/counts';
import { chartNow, readPutOnSheet, takeBreakdown, takeOffSheet } from '@/features/commands/chartCommands';
import { hint } from '@/features/commands/everyCommand';
import { ChartLine } from '@/features/plan/ChartLine';
import { ShapeChoice } from '@/features/plan/ShapeChoice';
import { contextNow, newId, take } from '@/features/project/editContext';
import { inView, levelInView } from '@/features/project/hooks';
import { useSoon } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

/** Keeps a changed chart. The sheet stays as it is: the chart only says where drawings lie. */
function keep(level: Level, chart: TimingChart): void {
  const view = inView();
  if (view) take(keepChart(contextNow(view), level, chart));
}

/** Gives the chart of now another shape. */
function reshape(shape: MadeShape): void {
  const now = chartNow();
  if (now) keep(now.level, reshaped(now.chart, shape));
}

const STEPS = [
  { value: '1', label: 'ones' },
  { value: '2', label: 'twos' },
  { value: '3', label: 'threes' },
] as const;

type StepText = (typeof STEPS)[number]['value'];

/** The step the in-betweens of a pair are on now: that of most of them; twos where there are none. */
function stepOf(pair: KeyPair): StepText {
  const counts = STEPS.map(({ value }) => pair.between.filter(({ run }) => run.endFrame - run.startFrame === Number(value)).length);
  const most = Math.max(...counts);
  return most === 0 ? '2' : (STEPS[counts.indexOf(most)]?.value ?? '2');
}

type ControlsProps = {
  level: Level;
  pair: KeyPair;
  chart: TimingChart;
  /** Which pair it is. */
  of: string;
  tick: number | null;
  setTick: (tick: number | null) => void;
};

/** What can be done to the chart, and what putting it on the sheet would come to. */
function Controls({ level, pair, chart, of, tick, setTick }: ControlsProps) {
  const [chosenStep, setStep] = useState<{ readonly of: string; readonly step: StepText } | null>(null);
  const step = chosenStep?.of === of ? chosenStep.step : stepOf(pair);
  const put = readPutOnSheet(Number(step));
  const fits = inbetweensThatFit(spanOf(pair), Number(step));
  const most = mostInbetweens(spanOf(pair), Number(step));
  const chosen = tick === null ? undefined : chart.ticks[tick];
  return (
    <div className="space-y-1.5 px-3.5 pb-2.5">
      <ShapeChoice shape={chart.shape} first={pair.from.drawing.number} second={pair.to.drawing.number} onChange={reshape} />
      {chart.shape !== 'hand' && roundedPlaces(chart.shape, chart.ticks.length) > 0 && (
        <p className="text-soft text-xs">
          {plural(roundedPlaces(chart.shape, chart.ticks.length), 'place')} moved to the nearest of {DRAWABLE_PARTS} parts: nobody draws
          finer.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-1.5">
        <Button tight disabled={chart.ticks.length >= MOST_INBETWEENS} onClick={() => keep(level, withTickAdded(chart))}>
          Add tick
        </Button>
        <Button
          tight
          disabled={!chosen}
          onClick={() => {
            if (tick !== null) keep(level, withoutTick(chart, tick));
            setTick(null);
          }}
        >
          Remove
        </Button>
        <Button
          tight
          disabled={!chosen?.drawing}
          title="The chosen in-between becomes a breakdown; the chart is two charts from then on"
          onClick={() => tick !== null && takeBreakdown(tick)}
        >
          Breakdown
        </Button>
        <Button
          tight
          disabled={pair.between.length === 0}
          title={hint('Place each drawing where in the span it begins', 'chart-read')}
          onClick={takeOffSheet}
        >
          Read from sheet
        </Button>
        <span className="ml-auto flex items-center gap-1.5">
          <Choice label="How long each in-between is held" value={step} options={STEPS} onChange={(next) => setStep({ of, step: next })} />
          <Button
            kind="go"
            disabled={!put.ok}
            onClick={() => take(readPutOnSheet(Number(step)), true)}
            title={put.ok ? put.value.says : put.reason}
          >
            Put on the sheet
          </Button>
        </span>
      </div>
      <output className={`block text-xs ${put.ok ? 'text-soft' : 'text-rust'}`} data-testid="chart-put">
        {put.ok ? `Put on the sheet: ${put.value.says}.` : put.reason}{' '}
        <span className="text-soft">
          {plural(fits, 'in-between fits', 'in-betweens fit')} in full{most > fits ? `, ${most} with the last cut short` : ''}.
        </span>
      </output>
    </div>
  );
}

type PairChartProps = { level: Level; pair: KeyPair; chart: TimingChart; isKept: boolean; firstNumber: number };

/** The chart of one pair of keys; what is chosen on it starts anew with another pair. */
function PairChart({ level, pair, chart, isKept, firstNumber }: PairChartProps) {
  const of = `${pair.from.drawing.id} ${pair.to.drawing.id}`;
  const [chosen, setChosen] = useState<{ readonly of: string; readonly tick: number | null }>({ of, tick: null });
  const tick = chosen.of === of ? chosen.tick : null;
  const setTick = (next: number | null) => setChosen({ of, tick: next });
  const [first, second] = [pair.from.drawing.number, pair.to.drawing.number];
  const trouble = isKept ? chartTrouble(level, chart) : null;
  const frame = (index: number) => index + firstNumber;
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex flex-wrap items-baseline gap-x-2 px-3.5 pt-2">
        <h2 className="font-bold">
          Timing chart {first} → {second}
        </h2>
        <p className="text-soft text-xs">
          {level.name}, {plural(chart.ticks.length, 'in-between')}, keys on {frame(pair.from.run.startFrame)} and{' '}
          {frame(pair.to.run.startFrame)}, {shapeWords(chart.shape, first, second)}
          {isKept ? '' : ', not saved yet'}
        </p>
      </header>
      {trouble && (
        <p role="status" className="mx-3.5 mt-1 rounded-md bg-rust-wash px-2 py-0.5 text-rust text-xs">
          {trouble}
        </p>
      )}
      <ChartLine
        key={of}
        level={level}
        pair={pair}
        chart={chart}
        firstNumber={firstNumber}
        tick={tick}
        onTick={setTick}
        onChange={(changed) => keep(level, changed)}
      />
      <Controls level={level} pair={pair} chart={chart} of={of} tick={tick} setTick={setTick} />
    </div>
  );
}

/** The timing chart between the two keys around the current frame; it may come a moment after that. */
export function ChartPanel({ shot: shotNow }: { shot: Shot }) {
  const firstNumber = useProjectStore(({ project }) => project?.firstFrameNumber ?? 0);
  const levelId = useSoon(useViewStore((state) => state.levelId));
  const frame = useSoon(useViewStore((state) => state.frame));
  return <ChartAt shot={useSoon(shotNow)} levelId={levelId} frame={frame} firstNumber={firstNumber} />;
}

type ChartAtProps = { shot: Shot; levelId: string | null; frame: number; firstNumber: number };

const ChartAt = memo(function ChartAt({ shot, levelId, frame: frameNow, firstNumber }: ChartAtProps) {
  const frame = Math.min(frameNow, shot.frames - 1);
  const level = levelInView(shot, levelId);
  const pair = level && pairAt(level, frame);
  if (!level || !pair) {
    return (
      <div className="p-3.5">
        <h2 className="font-bold">Timing chart</h2>
        <p className="mt-1 max-w-prose text-soft">
          A chart lies between two keys. {level?.name ?? 'This level'} has no two different ones around this frame yet: make drawings with N
          or Shift N and call them keys with K, or breakdowns with J. The chart then says where their in-betweens lie; the sheet says when
          they show.
        </p>
      </div>
    );
  }
  const { chart, isKept } = chartFor(level, pair, newId);
  return <PairChart level={level} pair={pair} chart={chart} isKept={isKept} firstNumber={firstNumber} />;
});
