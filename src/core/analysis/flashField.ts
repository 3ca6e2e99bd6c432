import { type CellGrid, screenScale } from '@/core/analysis/light';
import type { Size } from '@/core/document/model';

/*
 * "A 341 x 256 pixel rectangle anywhere on the displayed screen area when the content is viewed at 1024 x 768
 * pixels will provide a good estimate of a 10 degree visual field" (WCAG 2.2, general flash and red flash
 * thresholds); a quarter of it is the most that may flash.
 *
 * The rectangle lies anywhere, a grid's only on whole cells: it is taken as large as any place of the true one
 * needs, so that what flashes in it is never less than in the true one. With cells of 0.1° that is at most 3.2 %
 * of the figure more (25.0 is told as 25.8), and nothing more where all that flashes lies within the rectangle.
 */
const FIELD = { width: 341, height: 256 };
const FIELD_PART = 0.25;

/** What a cell that flashes whole weighs; a part of a cell weighs as much less. */
export const WHOLE_CELL = 255;

/** Light in 8 bits gives the part of a cell that an edge cuts off to about a hundredth: on the safe side, 24.9 % counts as more than 25. */
const SAFE_PART = 0.996;

/** The rectangle of 10° on a grid of cells, at how many places it can lie, and what a quarter of it weighs. */
export type FlashField = {
  readonly columns: number;
  readonly rows: number;
  readonly places: number;
  /** More than this weight in the rectangle is over a quarter of it. */
  readonly quarterWeight: number;
  /** What all of the true rectangle weighs. */
  readonly fieldWeight: number;
  readonly grid: CellGrid;
  /** Room for sums, used by every count: counts come by the thousand, and new room for each is what would cost time. */
  readonly sums: Int32Array;
};

export function fieldOn(size: Size, grid: CellGrid): FlashField {
  const cell = grid.cellPx * screenScale(size);
  const columns = Math.min(grid.columns, Math.ceil(FIELD.width / cell) + 1);
  const rows = Math.min(grid.rows, Math.ceil(FIELD.height / cell) + 1);
  const fieldWeight = ((FIELD.width * FIELD.height) / (cell * cell)) * WHOLE_CELL;
  return {
    columns,
    rows,
    places: (grid.columns - columns + 1) * (grid.rows - rows + 1),
    quarterWeight: fieldWeight * FIELD_PART * SAFE_PART,
    fieldWeight,
    grid,
    sums: new Int32Array((grid.columns + 1) * (grid.rows + 1)),
  };
}

/** The place of the rectangle that holds the most: its upper left cell, and the weight in it. */
export type FullestPlace = { readonly left: number; readonly top: number; readonly weight: number };

/** Where the rectangle holds the most of what cells weigh; the first of several, row by row. */
export function fullestPlace(weights: Uint8Array, field: FlashField): FullestPlace {
  const { columns, rows } = field.grid;
  const stride = columns + 1;
  const { sums } = field;
  for (let row = 0; row < rows; row++) {
    let line = 0;
    for (let column = 0; column < columns; column++) {
      line += weights[row * columns + column] as number;
      sums[(row + 1) * stride + column + 1] = (sums[row * stride + column + 1] as number) + line;
    }
  }
  let fullest: FullestPlace = { left: 0, top: 0, weight: -1 };
  for (let top = 0; top + field.rows <= rows; top++) {
    for (let left = 0; left + field.columns <= columns; left++) {
      const upper = top * stride + left;
      const lower = (top + field.rows) * stride + left;
      const weight =
        (sums[lower + field.columns] as number) -
        (sums[lower] as number) -
        (sums[upper + field.columns] as number) +
        (sums[upper] as number);
      if (weight > fullest.weight) fullest = { left, top, weight };
    }
  }
  return fullest;
}
