import type { DrawingId, Level } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { fractionText } from '@/core/time/fraction';

const NOWHERE: ReadonlyMap<DrawingId, string> = new Map();
const known = new WeakMap<readonly TimingChart[], ReadonlyMap<DrawingId, string>>();

/** Where a level's in-betweens lie on their charts, as fractions by drawing; the first chart of a drawing counts. */
export function placesOnCharts({ charts }: Level): ReadonlyMap<DrawingId, string> {
  if (charts.length === 0) return NOWHERE;
  let places = known.get(charts);
  if (!places) {
    const found = new Map<DrawingId, string>();
    for (const tick of charts.flatMap((chart) => chart.ticks))
      if (tick.drawing !== null && !found.has(tick.drawing)) found.set(tick.drawing, fractionText(tick.place));
    places = found;
    known.set(charts, places);
  }
  return places;
}
