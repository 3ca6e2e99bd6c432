import { chartFor, keepChart, putOnSheet, readOffSheet, removeChart, splitAtBreakdown } from '@/core/chart/chartEdits';
import { reshaped } from '@/core/chart/chartTicks';
import { type KeyPair, pairAt } from '@/core/chart/pair';
import { MADE_SHAPES, shapeWords } from '@/core/chart/shapes';
import type { Level } from '@/core/document/model';
import { MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { type Edit, editOf } from '@/core/edit/edit';
import { type Outcome, refused } from '@/core/outcome';
import { stepName } from '@/core/words';
import { ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { contextNow, newId, take, type View } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';

const group = 'Timing chart';

type ChartNow = {
  readonly view: View;
  readonly level: Level;
  readonly pair: KeyPair;
  readonly chart: TimingChart;
  readonly isKept: boolean;
};

const NO_PAIR = 'no two keys here: make two drawings of this level keys or breakdowns';

/** The keys around the current frame with their chart; null where there are not two. */
export function chartNow(): ChartNow | null {
  const view = inView();
  const pair = view?.level && pairAt(view.level, view.frame);
  return view?.level && pair ? { view, level: view.level, pair, ...chartFor(view.level, pair, newId) } : null;
}

const noPair = () => (chartNow() ? null : NO_PAIR);

/** Puts the current chart on the sheet, on a step; reads the sheet as it is timed. */
export function readPutOnSheet(step: number): Outcome<Edit> {
  const now = chartNow();
  return now ? putOnSheet(contextNow(now.view), now.level, now.chart, now.pair, step) : refused(`There are ${NO_PAIR}.`);
}

/** Reads the chart of now off the sheet's exposures and keeps it. */
export function takeOffSheet(): boolean {
  const now = chartNow();
  if (!now) return take(refused(`There are ${NO_PAIR}.`));
  const read = readOffSheet(now.level, now.pair, newId);
  return take(read.ok ? keepChart(contextNow(now.view), now.level, read.value) : read, true);
}

/** Makes a drawing of the chart of now a breakdown, which parts the chart in two. */
export function takeBreakdown(tickIndex: number): boolean {
  const now = chartNow();
  return take(now ? splitAtBreakdown(contextNow(now.view), now.level, now.chart, tickIndex) : refused(`There are ${NO_PAIR}.`), true);
}

/** The tick of the drawing that shows now; null when it is not on the chart. */
function tickHere(now: ChartNow): number | null {
  const shown = now.pair.between.find(({ run }) => run.startFrame <= now.view.frame && run.endFrame > now.view.frame);
  const index = now.chart.ticks.findIndex((tick) => tick.drawing !== null && tick.drawing === shown?.drawing.id);
  return index < 0 ? null : index;
}

function askForChart(): void {
  const now = chartNow();
  if (!now) return;
  const { view, level, pair } = now;
  const [first, second] = [pair.from.drawing.number, pair.to.drawing.number];
  ask({
    title: `Timing chart ${first} → ${second}`,
    about: 'Where the in-betweens lie is the chart’s; when they show is the sheet’s. Both are set here at once.',
    confirm: 'Put on the sheet',
    fields: [
      { id: 'inbetweens', label: 'In-betweens', start: String(now.chart.ticks.length) },
      {
        id: 'step',
        label: 'Each held',
        start: '2',
        options: [1, 2, 3].map((frames) => ({ value: String(frames), label: stepName(frames) })),
      },
      {
        id: 'shape',
        label: 'Spacing',
        start: now.chart.shape === 'hand' ? 'even' : now.chart.shape,
        options: MADE_SHAPES.map((shape) => ({ value: shape, label: shapeWords(shape, first, second) })),
      },
    ],
    read: ({ inbetweens = '', step = '2', shape: chosen = 'even' }) => {
      const count = /^\d{1,3}$/.test(inbetweens.trim()) ? Number(inbetweens) : -1;
      if (count < 0 || count > MOST_INBETWEENS)
        return refused(`“${inbetweens}” is not a number of in-betweens: a chart holds from 0 to ${MOST_INBETWEENS}.`);
      const shape = MADE_SHAPES.find((candidate) => candidate === chosen) ?? 'even';
      return putOnSheet(contextNow(view), level, reshaped(now.chart, shape, count), pair, Number(step));
    },
  });
}

const stepCommands = (
  [
    [1, 'ones'],
    [2, 'twos'],
    [3, 'threes'],
  ] as const
).map(
  ([step, word]): Command => ({
    id: `chart-put-${step}`,
    group,
    words: () => `Put the timing chart on the sheet, on ${word}`,
    keys: [],
    hindrance: noPair,
    run: () => take(readPutOnSheet(step), true),
  }),
);

/** Commands on the timing chart between the keys around the current frame. */
export const chartCommands: readonly Command[] = partOf('sheet', [
  { id: 'chart', group, words: () => 'Timing chart between the keys here …', keys: ['T'], hindrance: noPair, run: askForChart },
  ...stepCommands,
  { id: 'chart-read', group, words: () => 'Read the timing chart from the sheet', keys: ['Shift+T'], hindrance: noPair, run: takeOffSheet },
  {
    id: 'chart-split',
    group,
    words: () => 'Make this in-between a breakdown and split the chart there',
    keys: ['Shift+B'],
    hindrance: () => {
      const now = chartNow();
      return now && tickHere(now) !== null ? null : 'the drawing here is on no chart';
    },
    run: () => {
      const now = chartNow();
      const tick = now && tickHere(now);
      if (tick !== null) takeBreakdown(tick);
    },
  },
  {
    id: 'chart-remove',
    group,
    words: () => 'Remove the timing chart (drawings and exposures stay)',
    keys: [],
    hindrance: () => (chartNow()?.isKept ? null : 'there is none here'),
    run: () => {
      const now = chartNow();
      if (now) take(now.isKept ? removeChart(contextNow(now.view), now.level, now.chart) : editOf([], ''), true);
    },
  },
]);
