import type { Sound } from '@/core/document/sound';
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

/** What a table says of a sound, which is found by its name and the name of its file. */
export type WrittenSound = Pick<
  Sound,
  'name' | 'startFrame' | 'fromSample' | 'samples' | 'gainDecibels' | 'fadeInFrames' | 'fadeOutFrames' | 'muted'
> & {
  readonly row: number;
  readonly fileName: string;
};

export type WrittenDetails = { readonly charts: readonly WrittenChart[]; readonly sounds: readonly WrittenSound[] };
