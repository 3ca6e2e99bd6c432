import { placeOnChart } from '@/core/chart/chartEdits';
import { pairAt } from '@/core/chart/pair';
import { pointOnPath } from '@/core/chart/path';
import { type Drawing, drawingById, type Level } from '@/core/document/model';
import type { PathPoint, TimingChart } from '@/core/document/timingChart';
import { drawingShownAt } from '@/core/sheet/reading';
import { type Fraction, fractionValue } from '@/core/time/fraction';

/** A drawing on the motion path of its chart. */
export type Marker = { readonly drawing: Drawing; readonly place: Fraction; readonly point: PathPoint };

/** The drawings of a chart that has a path, where they lie on it, from key to key. */
export function markersOf(level: Level, chart: TimingChart): readonly Marker[] {
  const ids = [chart.fromDrawing, ...chart.ticks.map((tick) => tick.drawing), chart.toDrawing];
  return ids.flatMap((id): Marker[] => {
    const drawing = drawingById(level, id);
    const place = drawing && placeOnChart(chart, drawing.id);
    const point = place && pointOnPath(chart.path, fractionValue(place));
    return drawing && place && point ? [{ drawing, place, point }] : [];
  });
}

/** Charts of a level that have a path. */
export const chartsWithPath = (level: Level): readonly TimingChart[] => level.charts.filter((chart) => chart.path.length > 1);

/**
 * Where the drawing that shows at a frame lies on a path of its level: on the chart between the keys
 * around the frame when that has one, else on any that holds it. Undefined when it lies on none.
 */
export function markerAt(level: Level, frame: number): (Marker & { readonly chart: TimingChart }) | undefined {
  const drawing = drawingShownAt(level, frame);
  if (!drawing) return undefined;
  const pair = pairAt(level, frame);
  const charts = chartsWithPath(level);
  const own = charts.find((chart) => chart.fromDrawing === pair?.from.drawing.id && chart.toDrawing === pair.to.drawing.id);
  for (const chart of own ? [own, ...charts] : charts) {
    const place = placeOnChart(chart, drawing.id);
    const point = place && pointOnPath(chart.path, fractionValue(place));
    if (place && point) return { drawing, place, point, chart };
  }
  return undefined;
}
