import { chartPlaces, type MadeShape } from '@/core/chart/shapes';
import type { ChartTick, PathPoint, TimingChart } from '@/core/document/timingChart';
import { compareFractions, type Fraction, fraction, fractionValue, HAND_PARTS, placeByHand } from '@/core/time/fraction';

/*
 * Changes to a chart by itself. They change where drawings lie, never when they show: the sheet is not
 * touched by any of them.
 */

/** A chart without in-betweens between two drawings. */
export const emptyChart = (id: string, fromDrawing: string, toDrawing: string): TimingChart => ({
  id,
  fromDrawing,
  toDrawing,
  shape: 'even',
  ticks: [],
  path: [],
});

/** The chart with its in-betweens laid anew by a shape, as many as it has or as told; drawings stay with their ticks in order. */
export function reshaped(chart: TimingChart, shape: MadeShape, inbetweens = chart.ticks.length): TimingChart {
  const ticks = chartPlaces(shape, inbetweens).map((place, index): ChartTick => ({ place, drawing: chart.ticks[index]?.drawing ?? null }));
  return { ...chart, shape, ticks };
}

/** A tick moved by hand to a part of the way (0 to 1): as far as its neighbours let it, never onto them. */
export function withTickAt(chart: TimingChart, index: number, value: number): TimingChart {
  const tick = chart.ticks[index];
  if (!tick) throw new Error(`The chart has no tick ${index}.`);
  const before = chart.ticks[index - 1]?.place ?? { num: 0, den: 1 };
  const after = chart.ticks[index + 1]?.place ?? { num: 1, den: 1 };
  const place = between(placeByHand(value), before, after);
  if (compareFractions(place, tick.place) === 0) return chart;
  return { ...chart, shape: 'hand', ticks: chart.ticks.with(index, { ...tick, place }) };
}

/** The place itself when it lies between its neighbours, else the nearest one by hand that does, else their middle. */
function between(place: Fraction, before: Fraction, after: Fraction): Fraction {
  const lies = (candidate: Fraction) => compareFractions(candidate, before) > 0 && compareFractions(candidate, after) < 0;
  if (lies(place)) return place;
  const nearest =
    compareFractions(place, before) <= 0
      ? Math.floor(fractionValue(before) * HAND_PARTS) + 1
      : Math.ceil(fractionValue(after) * HAND_PARTS) - 1;
  const candidate = fraction(Math.max(0, nearest), HAND_PARTS);
  return lies(candidate) ? candidate : middleOf(before, after);
}

const middleOf = (a: Fraction, b: Fraction): Fraction => {
  const [num, den] = [a.num * b.den + b.num * a.den, 2 * a.den * b.den];
  return Number.isSafeInteger(num) && Number.isSafeInteger(den)
    ? fraction(num, den)
    : fraction(Math.round((fractionValue(a) + fractionValue(b)) * 2 ** 29), 2 ** 30);
};

/** One tick more, in the middle of the widest gap. */
export function withTickAdded(chart: TimingChart): TimingChart {
  const places = [{ num: 0, den: 1 }, ...chart.ticks.map((tick) => tick.place), { num: 1, den: 1 }];
  let widest = 0;
  const gap = (index: number) => fractionValue(places[index + 1] as Fraction) - fractionValue(places[index] as Fraction);
  for (let index = 1; index < places.length - 1; index++) if (gap(index) > gap(widest) + 1e-12) widest = index;
  const place = middleOf(places[widest] as Fraction, places[widest + 1] as Fraction);
  return { ...chart, shape: 'hand', ticks: chart.ticks.toSpliced(widest, 0, { place, drawing: null }) };
}

/** The chart without one of its ticks; its drawing stays on the sheet. */
export const withoutTick = (chart: TimingChart, index: number): TimingChart => ({
  ...chart,
  shape: 'hand',
  ticks: chart.ticks.toSpliced(index, 1),
});

/** The chart with the motion path of its marker. */
export const withPath = (chart: TimingChart, path: readonly PathPoint[]): TimingChart => ({ ...chart, path });

/** The charts of a level with one put in place of the one it was, or added. */
export function withChart(charts: readonly TimingChart[], chart: TimingChart): readonly TimingChart[] {
  const index = charts.findIndex((candidate) => candidate.id === chart.id);
  return index < 0 ? [...charts, chart] : charts.with(index, chart);
}
