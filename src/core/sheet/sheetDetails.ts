import type { ChartShape, PathPoint } from '@/core/document/timingChart';
import type { Fraction } from '@/core/time/fraction';

/* A shot's charts and sounds as a table has them: drawings and levels by their names and numbers. `row` is the table's, as a person counts it. */

export type WrittenChart = {
  readonly row: number;
  readonly level: string;
  readonly from: string;
  readonly to: string;
  readonly shape: ChartShape;
  readonly ticks: readonly { readonly place: Fraction; readonly number: string | null }[];
  readonly path: readonly PathPoint[];
};

/** `startFrame` counts from 0. */
export type WrittenSound = {
  readonly row: number;
  readonly name: string;
  readonly fileName: string;
  readonly startFrame: number;
  readonly fromSample: number;
  readonly samples: number;
  readonly gainDecibels: number;
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  readonly muted: boolean;
};

export type WrittenDetails = { readonly charts: readonly WrittenChart[]; readonly sounds: readonly WrittenSound[] };
