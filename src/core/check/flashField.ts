import type { CellGrid } from '@/core/raster/light';
import type { Size } from '@/core/sheet/document';

/*
 * "A 341 x 256 pixel rectangle anywhere on the displayed screen area when the content is viewed at 1024 x 768
 * pixels will provide a good estimate of a 10 degree visual field" (WCAG 2.2, general flash and red flash
 * thresholds); a quarter of it is the most that may flash.
 */
const FIELD = { width: 341, height: 256 };
export const FIELD_PART = 0.25;
const SCREEN = { width: 1024, height: 768 };

/** The rectangle of 10° on a grid of cells, at how many places it can lie, and how many cells are a quarter of it. */
export type FlashField = {
  readonly columns: number;
  readonly rows: number;
  readonly places: number;
  readonly quarterCells: number;
  readonly grid: CellGrid;
  /** Room for sums, used by every count: counts come by the thousand, and new room for each is what would cost time. */
  readonly sums: Int32Array;
};

export function fieldOn({ width, height }: Size, grid: CellGrid): FlashField {
  const scale = Math.min(SCREEN.width / width, SCREEN.height / height);
  const cell = grid.cellPx * scale;
  const columns = Math.max(1, Math.min(grid.columns, Math.round(FIELD.width / cell)));
  const rows = Math.max(1, Math.min(grid.rows, Math.round(FIELD.height / cell)));
  return {
    columns,
    rows,
    places: (grid.columns - columns + 1) * (grid.rows - rows + 1),
    quarterCells: (FIELD.width * FIELD.height * FIELD_PART) / (cell * cell),
    grid,
    sums: new Int32Array((grid.columns + 1) * (grid.rows + 1)),
  };
}

/** How many cells of a mark lie in the rectangle at each of its places, row by row, into `counts`. */
export function countInField(
  marks: Int8Array | Uint8Array,
  mark: number,
  field: FlashField,
  counts: Uint16Array = new Uint16Array(field.places),
): Uint16Array {
  const { columns, rows } = field.grid;
  const stride = columns + 1;
  const { sums } = field;
  for (let row = 0; row < rows; row++) {
    let line = 0;
    for (let column = 0; column < columns; column++) {
      if (marks[row * columns + column] === mark) line++;
      sums[(row + 1) * stride + column + 1] = (sums[row * stride + column + 1] as number) + line;
    }
  }
  for (let top = 0, place = 0; top + field.rows <= rows; top++) {
    for (let left = 0; left + field.columns <= columns; left++, place++) {
      const upper = top * stride + left;
      const lower = (top + field.rows) * stride + left;
      counts[place] =
        (sums[lower + field.columns] as number) -
        (sums[lower] as number) -
        (sums[upper + field.columns] as number) +
        (sums[upper] as number);
    }
  }
  return counts;
}
