import { type KeyPair, pairOfChart, spanOf } from '@/core/chart/pair';
import { drawingById, type Level } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { plural } from '@/core/time/counts';

/** Whether a chart and the sheet agree: what doesn't, in one sentence; null when all does. */
export function chartTrouble(level: Level, chart: TimingChart): string | null {
  const number = (id: string) => drawingById(level, id)?.number ?? '?';
  const name = `Chart ${number(chart.fromDrawing)} → ${number(chart.toDrawing)}`;
  const pair = pairOfChart(level, chart);
  if (!pair) return `${name}: the two are not exposed one after the other, so the sheet has no span for it.`;
  const inbetweens = chart.ticks.length;
  const room = Math.max(0, spanOf(pair) - 1);
  if (inbetweens > room) {
    return `${name} no longer fits: it holds ${plural(inbetweens, 'in-between')}, and its keys are ${plural(spanOf(pair), 'frame')} apart, where ${room} ${room === 1 ? 'fits' : 'fit'} on ones.`;
  }
  return orderTrouble(level, chart, pair, name);
}

function orderTrouble(level: Level, chart: TimingChart, pair: KeyPair, name: string): string | null {
  const shown = [...new Set(pair.between.map(({ drawing }) => drawing.id))];
  if (shown.length !== chart.ticks.length)
    return `${name} holds ${plural(chart.ticks.length, 'in-between')}, the sheet shows ${shown.length} between its keys.`;
  const stranger = chart.ticks.findIndex((tick, index) => tick.drawing !== null && tick.drawing !== shown[index]);
  if (stranger < 0) return null;
  const [meant, there] = [chart.ticks[stranger]?.drawing, shown[stranger]].map((id) => drawingById(level, id ?? null)?.number ?? '?');
  return `${name} has ${meant} in place ${stranger + 1}, the sheet shows ${there} there.`;
}
