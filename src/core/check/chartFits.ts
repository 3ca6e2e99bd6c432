import { readOffSheet } from '@/core/chart/chartEdits';
import { withChart } from '@/core/chart/chartTicks';
import { chartTrouble } from '@/core/chart/fit';
import { pairOfChart } from '@/core/chart/pair';
import type { Finding, Fix, LevelRule } from '@/core/check/finding';
import { drawingById } from '@/core/document/model';

/** Timing charts whose in-betweens are not those the sheet shows between their keys. */
export const chartFits: LevelRule = (shot, level, { firstNumber }) =>
  level.charts.flatMap((chart): Finding[] => {
    const trouble = chartTrouble(level, chart);
    if (trouble === null) return [];
    const at = { shotId: shot.id, levelId: level.id };
    const pair = pairOfChart(level, chart);
    const number = (id: string) => drawingById(level, id)?.number ?? '?';
    const name = `${number(chart.fromDrawing)} → ${number(chart.toDrawing)}`;
    const read = pair ? readOffSheet(level, pair, () => chart.id) : null;
    const fixes: Fix[] = [
      ...(read?.ok
        ? [
            {
              way: 'read',
              words: `Read chart ${name} from the sheet as it is timed`,
              step: { type: 'setCharts', ...at, charts: withChart(level.charts, read.value) } as const,
            },
          ]
        : []),
      {
        way: 'remove',
        words: `Remove chart ${name}`,
        step: { type: 'setCharts', ...at, charts: level.charts.filter((other) => other !== chart) },
      },
    ];
    const fromFrame = pair?.from.run.startFrame ?? 0;
    return [
      {
        id: `chart ${chart.id}`,
        kind: 'chart',
        group: 'slips',
        breaks: null,
        sentence: `${level.name}, ${pair ? `frame ${fromFrame + firstNumber}` : `shot ${shot.code}`}: ${trouble.charAt(0).toLowerCase()}${trouble.slice(1)}`,
        place: { ...at, fromFrame, toFrame: Math.max(fromFrame, (pair?.to.run.startFrame ?? 1) - 1) },
        fixes,
      },
    ];
  });
