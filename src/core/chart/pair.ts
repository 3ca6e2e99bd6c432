import type { Drawing, Level } from '@/core/document/model';
import { drawingById } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { remembered } from '@/core/remembered';
import { type PlacedRun, placedRuns } from '@/core/sheet/runs';

/** An exposure with its drawing. */
export type ShownExposure = { readonly drawing: Drawing; readonly run: PlacedRun };

/** Two keys (or breakdowns) one after the other on a level, and the exposures between them. */
export type KeyPair = { readonly from: ShownExposure; readonly to: ShownExposure; readonly between: readonly ShownExposure[] };

/** From the first frame of the first key to the first of the second: what the first key and its in-betweens have. */
export const spanOf = (pair: KeyPair): number => pair.to.run.startFrame - pair.from.run.startFrame;

/** A level's exposures with their drawings, those of them that are keys or breakdowns, and the pairs asked for by the first of them. */
type ShownRuns = {
  readonly shown: readonly ShownExposure[];
  readonly poses: readonly ShownExposure[];
  readonly pairs: Map<number, KeyPair>;
};

const shownRuns = remembered((level: Level): ShownRuns => {
  const shown = placedRuns(level.exposures).flatMap((run) => {
    const drawing = drawingById(level, run.drawing);
    return drawing ? [{ drawing, run }] : [];
  });
  return { shown, poses: shown.filter(({ drawing }) => drawing.role !== 'inbetween'), pairs: new Map() };
});

/**
 * The pair of keys a frame lies between: the last key or breakdown that has begun by then and the next
 * one after it; from the last key on, the pair it closes. The same pair is the same value. Null when there are not two.
 */
export function pairAt(level: Level, frame: number): KeyPair | null {
  const { shown, poses, pairs } = shownRuns(level);
  const first = Math.min(Math.max(lastBegun(poses, frame), 0), poses.length - 2);
  const [from, to] = [poses[first], poses[first + 1]];
  if (!from || !to || from.drawing === to.drawing) return null;
  const known = pairs.get(first);
  if (known) return known;
  const pair = { from, to, between: shown.slice(lastBegun(shown, from.run.startFrame) + 1, lastBegun(shown, to.run.startFrame)) };
  pairs.set(first, pair);
  return pair;
}

/** The index of the last one that has begun by a frame, found by halving; −1 when none has. */
function lastBegun(shown: readonly ShownExposure[], frame: number): number {
  let low = 0;
  let high = shown.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((shown[middle] as ShownExposure).run.startFrame <= frame) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The pair a chart lies between where its drawings are exposed: the first time the second follows the first. */
export function pairOfChart(level: Level, chart: TimingChart): KeyPair | null {
  const { shown } = shownRuns(level);
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
