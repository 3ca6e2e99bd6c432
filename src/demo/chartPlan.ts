import type { ChartShape, PathPoint } from '@/core/document/timingChart';

/** A timing chart as it is thought up: keys and in-betweens by their numbers. */
export type ChartPlan = {
  readonly from: string;
  readonly to: string;
  readonly shape: Exclude<ChartShape, 'hand'>;
  readonly between: readonly string[];
  readonly path: readonly PathPoint[];
};
