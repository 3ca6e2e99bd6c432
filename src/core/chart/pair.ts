import type { Drawing, Level } from '@/core/sheet/document';
import { drawingById } from '@/core/sheet/document';
import { type PlacedRun, placedRuns } from '@/core/sheet/runs';
import type { TimingChart } from '@/core/sheet/timingChart';

/** An exposure with its drawing. */
export type Shown = { readonly drawing: Drawing; readonly run: PlacedRun };

/** Two keys (or breakdowns) one after the other on a level, and the exposures between them. */
export type KeyPair = { readonly from: Shown; readonly to: Shown; readonly between: readonly Shown[] };

/** From the first frame of the first key to the first of the second: what the first key and its in-betweens have. */
export const spanOf = (pair: KeyPair): number => pair.to.run.startFrame - pair.from.run.startFrame;

function shownRuns(level: Level): readonly Shown[] {
  return placedRuns(level.exposures).flatMap((run) => {
    const drawing = drawingById(level, run.drawing);
    return drawing ? [{ drawing, run }] : [];
  });
}

const isPose = ({ drawing }: Shown) => drawing.role !== 'inbetween';

/**
 * The pair of keys a frame lies between: the last key or breakdown that has begun by then and the next
 * one after it; from the last key on, the pair it closes. Null when there are not two.
 */
export function pairAt(level: Level, frame: number): KeyPair | null {
  const shown = shownRuns(level);
  const poses = shown.filter(isPose);
  const begun = poses.findLastIndex(({ run }) => run.startFrame <= frame);
  const first = Math.min(Math.max(begun, 0), poses.length - 2);
  const [from, to] = [poses[first], poses[first + 1]];
  if (!from || !to || from.drawing === to.drawing) return null;
  const between = shown.filter(({ run }) => run.startFrame > from.run.startFrame && run.startFrame < to.run.startFrame);
  return { from, to, between };
}

/** The pair a chart lies between where its drawings are exposed: the first time the second follows the first. */
export function pairOfChart(level: Level, chart: TimingChart): KeyPair | null {
  const shown = shownRuns(level);
  for (const [index, to] of shown.entries()) {
    if (to.drawing.id !== chart.toDrawing) continue;
    const start = shown.findLastIndex(({ drawing }, place) => place < index && drawing.id === chart.fromDrawing);
    const from = shown[start];
    if (from) return { from, to, between: shown.slice(start + 1, index) };
  }
  return null;
}

/** The chart between the two drawings of a pair. */
export const chartOfPair = (level: Level, pair: KeyPair): TimingChart | undefined =>
  level.charts.find((chart) => chart.fromDrawing === pair.from.drawing.id && chart.toDrawing === pair.to.drawing.id);
