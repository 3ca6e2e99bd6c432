import type { Fraction } from '@/core/time/fraction';

/** How in-betweens lie between two keys; `hand` is whatever a person made of it. Worked out in `@/core/chart/shapes`. */
export const CHART_SHAPES = [
  'even',
  'halvesFirst',
  'halvesSecond',
  'halvesBoth',
  'thirdsFirst',
  'thirdsSecond',
  'slowOut',
  'slowIn',
  'slowBoth',
  'countOut',
  'countIn',
  'countBoth',
  'favourFirst',
  'favourSecond',
  'hand',
] as const;
export type ChartShape = (typeof CHART_SHAPES)[number];

/** Most in-betweens one chart may hold: with more, thirds would need parts too fine for exact whole numbers. */
export const MOST_INBETWEENS = 30;

/** One in-between on a chart: its place from the first key (0) to the second (1), and its drawing once it has one. */
export type ChartTick = { readonly place: Fraction; readonly drawing: string | null };

/** A point of a path, in pixels of the picture. */
export type PathPoint = { readonly x: number; readonly y: number };

/**
 * A timing chart: where the in-betweens lie between two drawings of one level. It is tied to its drawings
 * and not to frames, so that it goes wherever they are exposed: the chart says where, the sheet says when.
 * Ticks strictly grow and none lies on a key. `path` is the motion path of the plan board's marker, empty when none was drawn.
 */
export type TimingChart = {
  readonly id: string;
  readonly fromDrawing: string;
  readonly toDrawing: string;
  readonly shape: ChartShape;
  readonly ticks: readonly ChartTick[];
  readonly path: readonly PathPoint[];
};
