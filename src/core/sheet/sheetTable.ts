import type { DrawingRole, SheetNote } from '@/core/document/model';

/** A run of a written column: a drawing's number with its role where one is written, or blank, for so many frames. */
export type WrittenRun = { readonly number: string | null; readonly role: DrawingRole | null; readonly frames: number };

/** A written column; `place` is its column in the table, from 1. */
export type WrittenColumn = {
  readonly name: string;
  readonly isGuide: boolean;
  readonly place: number;
  readonly runs: readonly WrittenRun[];
};

/**
 * A sheet written down as a table, a row a frame: as long as the shot, columns as they stand, and what is
 * written beside the frames (frames from 0); null where the table has no columns for it.
 */
export type SheetTable = {
  readonly frames: number;
  readonly columns: readonly WrittenColumn[];
  readonly notes: readonly SheetNote[] | null;
};

/** The row of a table in which a frame (from 0) stands, from 1, under the row of heads. */
export const rowOfFrame = (frame: number): number => frame + 2;
