import type { DrawingId, Level } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { remembered } from '@/core/remembered';
import { fractionText } from '@/core/time/fraction';

const placesByDrawing = remembered((charts: readonly TimingChart[]): ReadonlyMap<DrawingId, string> => {
  const places = new Map<DrawingId, string>();
  for (const tick of charts.flatMap((chart) => chart.ticks))
    if (tick.drawing !== null && !places.has(tick.drawing)) places.set(tick.drawing, fractionText(tick.place));
  return places;
});

/** Where a level's in-betweens lie on their charts, as fractions by drawing; the first chart of a drawing counts. */
export const placesOnCharts = ({ charts }: Level): ReadonlyMap<DrawingId, string> => placesByDrawing(charts);
