import equal from 'fast-deep-equal';
import type { Level } from '@/core/document/model';
import { MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { findDrawing, findLevel, withLevel, withProperties } from '@/core/edit/locate';
import { levelInBoth, mergeLists } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { compareFractions, type Fraction, fractionText } from '@/core/time/fraction';

function checkTicks(level: Level, chart: TimingChart): Outcome<TimingChart> {
  if (chart.ticks.length > MOST_INBETWEENS)
    return refused(`A chart holds at most ${MOST_INBETWEENS} in-betweens; this one has ${chart.ticks.length}.`);
  let last: Fraction = { num: 0, den: 1 };
  const used = new Set([chart.fromDrawing, chart.toDrawing]);
  for (const { place, drawing } of chart.ticks) {
    const whole = Number.isSafeInteger(place.num) && Number.isSafeInteger(place.den) && place.den > 0;
    if (!whole || compareFractions(place, last) <= 0 || compareFractions(place, { num: 1, den: 1 }) >= 0)
      return refused(
        `A chart of ${level.name} has a tick on ${fractionText(place)}: ticks lie between the keys, each after the one before.`,
      );
    last = place;
    if (drawing === null) continue;
    const found = findDrawing(level, drawing);
    if (!found.ok) return found;
    if (used.has(drawing)) return refused(`Drawing ${found.value.number} of ${level.name} would stand twice on one chart.`);
    used.add(drawing);
  }
  return done(chart);
}

function checkChart(level: Level, chart: TimingChart): Outcome<TimingChart> {
  for (const key of [chart.fromDrawing, chart.toDrawing]) {
    const found = findDrawing(level, key);
    if (!found.ok) return found;
  }
  if (chart.fromDrawing === chart.toDrawing) return refused(`A chart of ${level.name} lies between two drawings, not one.`);
  return checkTicks(level, chart);
}

/** Steps on the timing charts of a level. */
export const chartSteps: StepRules<'setCharts'> = {
  setCharts: {
    apply(project, { shotId, levelId, charts }) {
      const found = findLevel(project, shotId, levelId);
      if (!found.ok) return found;
      const { level } = found.value;
      const between = new Set<string>();
      for (const chart of charts) {
        const checked = checkChart(level, chart);
        if (!checked.ok) return checked;
        between.add(`${chart.fromDrawing} ${chart.toDrawing}`);
      }
      if (between.size < charts.length || new Set(charts.map((chart) => chart.id)).size < charts.length)
        return refused(`${level.name} would have two charts between the same drawings.`);
      return done(withLevel(project, shotId, levelId, (at) => withProperties(at, { charts })));
    },
    invert: (before, { shotId, levelId }) => ({
      type: 'setCharts',
      shotId,
      levelId,
      charts: mustBeDone(findLevel(before, shotId, levelId)).level.charts,
    }),
    map(mapping, step) {
      const level = levelInBoth(mapping, step.shotId, step.levelId);
      if (!level) return done(step);
      const charts = mergeLists(level.from.charts, level.to.charts, step.charts, (chart) => chart.id, equal);
      return charts ? done({ ...step, charts }) : refused('The same timing chart was changed meanwhile.');
    },
    expects: () => null,
  },
};
