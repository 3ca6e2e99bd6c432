import { emptyChart, reshaped, withChart } from '@/core/chart/chartTicks';
import { chartOfPair, type KeyPair, spanOf } from '@/core/chart/pair';
import { inbetweensThatFit, timeSpan } from '@/core/chart/span';
import { type Drawing, drawingById, type Exposure, type Level } from '@/core/document/model';
import { type ChartTick, MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { addDrawings, stepWord } from '@/core/edit/blockEdits';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import { rememberedUnder } from '@/core/remembered';
import { numberAfter, numbersBetween, numbersTaken, plannedInbetween } from '@/core/sheet/numbers';
import { plural } from '@/core/time/counts';
import { compareFractions, fraction, fractionText, placeWithin } from '@/core/time/fraction';

const nameOf = (level: Level, chart: TimingChart) =>
  `${drawingById(level, chart.fromDrawing)?.number ?? '?'} → ${drawingById(level, chart.toDrawing)?.number ?? '?'}`;

const setCharts = ({ shot }: EditContext, level: Level, charts: readonly TimingChart[]): Step => ({
  type: 'setCharts',
  shotId: shot.id,
  levelId: level.id,
  charts,
});

/** The chart between two keys: the one they have, else an even one of the drawings that stand between them, or of as many as fit on twos. */
export function chartFor(level: Level, pair: KeyPair, newId: () => string): { readonly chart: TimingChart; readonly isKept: boolean } {
  const kept = chartOfPair(level, pair);
  if (kept) return { chart: kept, isKept: true };
  return { chart: offered(pair, null, () => offer(pair, newId)), isKept: false };
}

/** Charts offered for pairs that have none: asked again, the same pair is offered the same, ids and all. */
const offered = rememberedUnder<KeyPair, null, TimingChart>();

function offer(pair: KeyPair, newId: () => string): TimingChart {
  const between = [...new Set(pair.between.map(({ drawing }) => drawing.id))].slice(0, MOST_INBETWEENS);
  const count = between.length > 0 ? between.length : Math.min(MOST_INBETWEENS, inbetweensThatFit(spanOf(pair), 2));
  const even = reshaped(emptyChart(newId(), pair.from.drawing.id, pair.to.drawing.id), 'even', count);
  return { ...even, ticks: even.ticks.map((tick, index) => ({ ...tick, drawing: between[index] ?? null })) };
}

/** Takes a changed chart, or a new one: where drawings lie changes, when they show does not. */
export const keepChart = (context: EditContext, level: Level, chart: TimingChart): Outcome<Edit> =>
  editOf([setCharts(context, level, withChart(level.charts, chart))], `Chart ${nameOf(level, chart)}`);

/** Takes a chart away; its drawings and their exposures stay. */
export const removeChart = (context: EditContext, level: Level, chart: TimingChart): Outcome<Edit> =>
  editOf(
    [
      setCharts(
        context,
        level,
        level.charts.filter((candidate) => candidate.id !== chart.id),
      ),
    ],
    `Remove chart ${nameOf(level, chart)}`,
    `Remove chart ${nameOf(level, chart)}; its drawings and exposures stay`,
  );

/*
 * Which drawing each tick gets: the one it has; else, in order, those exposed between the keys that no
 * tick has; else a new planned one, numbered between its neighbours.
 */
function drawingsForTicks(level: Level, chart: TimingChart, pair: KeyPair, newId: () => string) {
  const bound = new Set(chart.ticks.map((tick) => tick.drawing));
  const free = [...new Set(pair.between.map(({ drawing }) => drawing))].filter((drawing) => !bound.has(drawing.id));
  const taken = numbersTaken(level);
  const added: Drawing[] = [];
  const add = (number: string) => {
    const planned = plannedInbetween(newId(), number);
    added.push(planned);
    return planned;
  };
  const missing = chart.ticks.filter((tick) => tick.drawing === null).length;
  const allNew = missing === chart.ticks.length && free.length === 0;
  const numbers = allNew ? [...numbersBetween(pair.from.drawing.number, pair.to.drawing.number, missing, taken)] : [];
  let last = pair.from.drawing;
  const drawings = chart.ticks.map((tick): Drawing => {
    last = drawingById(level, tick.drawing) ?? free.shift() ?? add(numbers.shift() ?? numberAfter(last.number, taken));
    return last;
  });
  return { drawings, added, left: free };
}

/** Puts a chart's in-betweens on the sheet between its keys, on a step: planned drawings where it has none, exposures in place of what stood there. */
export function putOnSheet(context: EditContext, level: Level, chart: TimingChart, pair: KeyPair, step: number): Outcome<Edit> {
  const span = spanOf(pair);
  const timing = timeSpan(span, step, chart.ticks.length);
  if (!timing.ok) return timing;
  const { drawings, added, left } = drawingsForTicks(level, chart, pair, context.newId);
  const runs: Exposure[] = [pair.from.drawing, ...drawings].map((drawing, index) => ({
    drawing: drawing.id,
    frames: timing.value.frames[index] ?? 0,
  }));
  const filled: TimingChart = {
    ...chart,
    ticks: chart.ticks.map((tick, index): ChartTick => ({ ...tick, drawing: drawings[index]?.id ?? null })),
  };
  const at = { shotId: context.shot.id, levelId: level.id };
  const numbers = drawings.map((drawing) => drawing.number);
  const keyFrames = timing.value.frames[0] ?? span;
  const keyWords = keyFrames === step ? '' : `; ${pair.from.drawing.number} is held for ${plural(keyFrames, 'frame')}`;
  const endWords = timing.value.endsShort ? `; the last one ends ${timing.value.frames.at(-1) === 1 ? 'on a one' : 'short'}` : '';
  const leftWords = left.length === 0 ? '' : `; ${left.map((drawing) => drawing.number).join(', ')} no longer exposed there`;
  return editOf(
    [
      ...addDrawings(context, level, added),
      { type: 'replaceRuns', ...at, startFrame: pair.from.run.startFrame, removedFrames: span, runs },
      setCharts(context, level, withChart(level.charts, filled)),
    ],
    `Chart ${nameOf(level, chart)} on the sheet`,
    `${plural(numbers.length, 'in-between')} ${stepWord(step)}${numbers.length > 0 ? `: ${numbers.join(', ')}` : ''}${keyWords}${endWords}${leftWords}`,
  );
}

/**
 * Reads a chart off the exposures between two keys, as a movement at an even pace would have it: a drawing
 * that begins a quarter of the span in lies a quarter of the way. A chart that is there keeps its path.
 */
export function readOffSheet(level: Level, pair: KeyPair, newId: () => string): Outcome<TimingChart> {
  const span = spanOf(pair);
  const known = chartOfPair(level, pair) ?? emptyChart(newId(), pair.from.drawing.id, pair.to.drawing.id);
  const seen = new Set([pair.from.drawing.id, pair.to.drawing.id]);
  const ticks: ChartTick[] = [];
  for (const { drawing, run } of pair.between) {
    if (seen.has(drawing.id)) continue;
    seen.add(drawing.id);
    ticks.push({ place: fraction(run.startFrame - pair.from.run.startFrame, span), drawing: drawing.id });
  }
  if (ticks.length === 0)
    return refused(
      `No in-between is exposed between ${pair.from.drawing.number} and ${pair.to.drawing.number} that a chart could be read from.`,
    );
  if (ticks.length > MOST_INBETWEENS)
    return refused(
      `There are ${ticks.length} drawings between ${pair.from.drawing.number} and ${pair.to.drawing.number}; a chart holds at most ${MOST_INBETWEENS}.`,
    );
  return { ok: true, value: { ...known, shape: 'hand', ticks } };
}

/** A chart in two at one of its in-betweens, which becomes a breakdown; every drawing lies where it lay. */
export function splitAtBreakdown(context: EditContext, level: Level, chart: TimingChart, tickIndex: number): Outcome<Edit> {
  const tick = chart.ticks[tickIndex];
  const breakdown = tick && drawingById(level, tick.drawing);
  if (!tick || !breakdown) return refused('Put the chart on the sheet first: a breakdown is a drawing, and this tick has none yet.');
  const within = (ticks: readonly ChartTick[], from: ChartTick['place'], to: ChartTick['place']) =>
    ticks.map((each): ChartTick => ({ ...each, place: placeWithin(each.place, from, to) }));
  const [zero, one] = [fraction(0, 1), fraction(1, 1)];
  const first: TimingChart = {
    ...chart,
    toDrawing: breakdown.id,
    shape: 'hand',
    ticks: within(chart.ticks.slice(0, tickIndex), zero, tick.place),
    path: [],
  };
  const second: TimingChart = {
    ...emptyChart(context.newId(), breakdown.id, chart.toDrawing),
    shape: 'hand',
    ticks: within(chart.ticks.slice(tickIndex + 1), tick.place, one),
  };
  const rest = level.charts.filter(
    (candidate) => candidate.id !== chart.id && !(candidate.fromDrawing === breakdown.id && candidate.toDrawing === chart.toDrawing),
  );
  const at = { shotId: context.shot.id, levelId: level.id };
  return editOf(
    [{ type: 'describeDrawing', ...at, drawingId: breakdown.id, role: 'breakdown' }, setCharts(context, level, [...rest, first, second])],
    `Breakdown ${breakdown.number}`,
    `${breakdown.number} becomes a breakdown at ${fractionText(tick.place)}: charts ${nameOf(level, first)} and ${nameOf(level, second)}`,
  );
}

/** Where a drawing lies on a chart: 0 for its first key, 1 for its second; undefined when it is not on it. */
export function placeOnChart(chart: TimingChart, drawingId: string): ChartTick['place'] | undefined {
  if (chart.fromDrawing === drawingId) return fraction(0, 1);
  if (chart.toDrawing === drawingId) return fraction(1, 1);
  return chart.ticks.find((tick) => tick.drawing === drawingId)?.place;
}

/** Where a drawing lies on its chart in words: `1/3 of the way, nearer 5`; null for keys and strangers. */
export function placeWords(level: Level, chart: TimingChart, drawingId: string): string | null {
  const place = placeOnChart(chart, drawingId);
  if (!place || place.num === 0 || place.num === place.den) return null;
  const lean = compareFractions(place, fraction(1, 2));
  const towards = lean === 0 ? 'midway' : `nearer ${drawingById(level, lean < 0 ? chart.fromDrawing : chart.toDrawing)?.number ?? '?'}`;
  return `${fractionText(place)} of the way, ${towards}`;
}
