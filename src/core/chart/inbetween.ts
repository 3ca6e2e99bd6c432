import { withChart } from '@/core/chart/chartTicks';
import { nearestDrawable } from '@/core/chart/shapes';
import { type Drawing, drawingById, type Level } from '@/core/document/model';
import { type ChartTick, MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import { insertInbetween } from '@/core/edit/numberEdits';
import type { Step } from '@/core/edit/step';
import type { Outcome } from '@/core/outcome';
import { runAt } from '@/core/sheet/runs';
import { compareFractions, type Fraction, fraction, fractionText } from '@/core/time/fraction';

/** Where a drawing lies on a chart: before which of its ticks the next place comes, and its own place; null when it is none of its drawings but the last key. */
function placeAmongTicks(chart: TimingChart, drawing: Drawing): { readonly nextTick: number; readonly place: Fraction } | null {
  if (chart.fromDrawing === drawing.id) return { nextTick: 0, place: fraction(0, 1) };
  const index = chart.ticks.findIndex((tick) => tick.drawing === drawing.id);
  const tick = chart.ticks[index];
  return tick ? { nextTick: index + 1, place: tick.place } : null;
}

/** The middle between two places, as near as somebody can draw it: (a/b + c/d) / 2 = (ad + cb) / 2bd. */
const middle = (a: Fraction, b: Fraction): Fraction => nearestDrawable(fraction(a.num * b.den + b.num * a.den, 2 * a.den * b.den));

/**
 * A new planned in-between after the drawing here, in the later half of its exposure. Where the drawing lies on
 * a chart the new one does too: on the chart's next place that has no drawing yet, else in the middle between
 * this drawing and the next.
 */
export function insertChartedInbetween(context: EditContext, level: Level, frame: number): Outcome<Edit & { startFrame: number }> {
  const plain = insertInbetween(context, level, frame);
  const drawing = drawingById(level, runAt(level.exposures, frame)?.drawing ?? null);
  if (!plain.ok || !drawing || plain.value.step.type !== 'together') return plain;
  const added = plain.value.step.steps.find((step) => step.type === 'addDrawing');
  const found = level.charts.flatMap((chart) => {
    const at = placeAmongTicks(chart, drawing);
    return at ? [{ chart, at }] : [];
  })[0];
  if (!found || !added) return plain;
  const { chart, at } = found;
  const next = chart.ticks[at.nextTick];
  const waits = next?.drawing === null;
  const end = next?.place ?? fraction(1, 1);
  const place = waits ? next.place : middle(at.place, end);
  // Where nothing between the two can be drawn any more, the new one lies on no chart.
  const hasRoom = compareFractions(place, at.place) > 0 && compareFractions(place, end) < 0;
  if (!waits && (chart.ticks.length >= MOST_INBETWEENS || !hasRoom)) return plain;
  const tick: ChartTick = { place, drawing: added.drawing.id };
  const ticks = waits ? chart.ticks.with(at.nextTick, tick) : chart.ticks.toSpliced(at.nextTick, 0, tick);
  const changed: TimingChart = { ...chart, shape: waits ? chart.shape : 'hand', ticks };
  const charts: Step = { type: 'setCharts', shotId: context.shot.id, levelId: level.id, charts: withChart(level.charts, changed) };
  const edit = editOf(
    [...plain.value.step.steps, charts],
    plain.value.step.words,
    `${plain.value.says}, ${fractionText(place)} of the way by the chart`,
  );
  return edit.ok ? { ok: true, value: { ...edit.value, startFrame: plain.value.startFrame } } : edit;
}
