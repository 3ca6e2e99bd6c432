'use client';
import { type KeyboardEvent, type PointerEvent, useState } from 'react';
import { withoutTick, withTickAt } from '@/core/chart/chartTicks';
import type { KeyPair, ShownExposure } from '@/core/chart/pair';
import { type Drawing, drawingById, type Level } from '@/core/document/model';
import type { ChartTick, TimingChart } from '@/core/document/timingChart';
import { fractionText, fractionValue, HAND_PARTS } from '@/core/time/fraction';
import { goToFrame } from '@/features/project/navigation';
import { DrawingNumber } from '@/features/sheet/DrawingNumber';

type Props = {
  level: Level;
  pair: KeyPair;
  chart: TimingChart;
  firstNumber: number;
  /** The tick that is chosen. */
  tick: number | null;
  onTick: (tick: number | null) => void;
  onChange: (chart: TimingChart) => void;
};

const range = (from: number, to: number) => (from === to ? String(from) : `${from}–${to}`);

function Key({ shown, at, firstNumber }: { shown: ShownExposure; at: 'left-0' | 'left-full'; firstNumber: number }) {
  const { drawing, run } = shown;
  return (
    <button
      type="button"
      onClick={() => goToFrame(run.startFrame)}
      className={`absolute top-0 flex w-16 -translate-x-1/2 flex-col items-center ${at}`}
      title={`Go to ${drawing.number}`}
    >
      <span className="flex h-6 items-center text-sm">
        <DrawingNumber drawing={drawing} />
      </span>
      <span className="h-11 w-[2px] bg-ink" />
      <span className="numbers mt-0.5 text-2xs text-soft">{range(run.startFrame + firstNumber, run.endFrame - 1 + firstNumber)}</span>
    </button>
  );
}

/** The frames a tick's drawing shows between the keys; empty when it has none or shows elsewhere only. */
function framesOf(pair: KeyPair, drawing: Drawing | undefined, firstNumber: number): string {
  const run = pair.between.find((shown) => shown.drawing === drawing)?.run;
  return run ? range(run.startFrame + firstNumber, run.endFrame - 1 + firstNumber) : '';
}

/** Ticks that lie closer than this have their words one line lower in turn. */
const CROWDED = 0.075;

/** Which of two lines the words of each tick stand on, so that neighbours don't run into each other. */
function tickLines(ticks: readonly ChartTick[]): readonly number[] {
  const lines: number[] = [];
  const last = [-1, -1, -1];
  for (const { place } of ticks) {
    const value = fractionValue(place);
    const free = last.findIndex((taken) => value - taken >= CROWDED);
    const line = Math.max(free, 0);
    last[line] = value;
    lines.push(line);
  }
  return lines;
}

/** The line of a timing chart: its keys at the ends, in-betweens where they lie. Ticks are dragged, or moved with the arrow keys; Delete takes one away. */
export function ChartLine({ level, pair, chart: kept, firstNumber, tick: chosen, onTick, onChange }: Props) {
  const [dragged, setDragged] = useState<TimingChart | null>(null);
  const chart = dragged ?? kept;
  const lines = tickLines(chart.ticks);

  const valueAt = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    return box ? (event.clientX - box.left) / box.width : 0;
  };
  const onKeyDown = (event: KeyboardEvent, index: number) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const place = kept.ticks[index]?.place;
    if (!place) return;
    if (by !== undefined) onChange(withTickAt(kept, index, fractionValue(place) + (by * (event.shiftKey ? 10 : 1)) / HAND_PARTS));
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      onChange(withoutTick(kept, index));
      onTick(null);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className="min-h-[108px] flex-1 px-12 pt-1.5">
      <div className="relative h-full" data-testid="chart-line">
        <span className="absolute top-[46px] left-0 h-[2px] w-full bg-ink" />
        <Key shown={pair.from} at="left-0" firstNumber={firstNumber} />
        <Key shown={pair.to} at="left-full" firstNumber={firstNumber} />
        {chart.ticks.map((tick, index) => {
          const drawing = drawingById(level, tick.drawing);
          const value = fractionValue(tick.place);
          const frames = framesOf(pair, drawing, firstNumber);
          return (
            <button
              // biome-ignore lint/suspicious/noArrayIndexKey: a tick is its place in the chart
              key={index}
              type="button"
              role="slider"
              aria-label={drawing ? `In-between ${drawing.number}` : `In-between ${index + 1}, no drawing yet`}
              aria-valuemin={0}
              aria-valuemax={1}
              aria-valuenow={Number(value.toFixed(4))}
              aria-valuetext={`${fractionText(tick.place)} of the way`}
              data-place={fractionText(tick.place)}
              onFocus={() => onTick(index)}
              onKeyDown={(event) => onKeyDown(event, index)}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                onTick(index);
              }}
              onPointerMove={(event) => {
                if (event.currentTarget.hasPointerCapture(event.pointerId) && event.buttons > 0)
                  setDragged(withTickAt(chart, index, valueAt(event)));
              }}
              onPointerUp={() => {
                if (dragged && dragged !== kept) onChange(dragged);
                setDragged(null);
              }}
              onPointerCancel={() => setDragged(null)}
              className="absolute top-0 flex w-9 -translate-x-1/2 cursor-ew-resize touch-none flex-col items-center"
              style={{ left: `${value * 100}%` }}
            >
              <span className={`flex h-8 items-center font-semibold text-sm ${chosen === index ? 'rounded bg-lime-wash px-1' : ''}`}>
                {drawing ? <DrawingNumber drawing={drawing} /> : <span className="text-edge">·</span>}
              </span>
              <span className={`h-8 w-[3px] rounded-full ${drawing ? 'bg-moss' : 'bg-edge'}`} />
              <span
                className="numbers whitespace-nowrap text-2xs text-soft leading-[13px]"
                style={{ marginTop: 2 + (lines[index] ?? 0) * 27 }}
              >
                {fractionText(tick.place)}
              </span>
              <span className="numbers whitespace-nowrap text-2xs text-soft leading-[13px]">{frames}</span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
