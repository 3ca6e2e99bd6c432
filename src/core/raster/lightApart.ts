import { CELL_BYTES, type CellBox, type CellGrid, type PictureLight } from '@/core/raster/light';

/** Cells by number, row by row; null for so many that each cell of the box counts as one. */
export type CellList = Uint16Array | Uint32Array | null;

/** From this part of a box on, its cells are not listed one by one. */
const MOST_LISTED = 0.5;

/** The box around two others. */
export function boxAround(box: CellBox | null, other: CellBox | null): CellBox | null {
  if (!box || !other) return box ?? other;
  return {
    left: Math.min(box.left, other.left),
    top: Math.min(box.top, other.top),
    right: Math.max(box.right, other.right),
    bottom: Math.max(box.bottom, other.bottom),
  };
}

const cellsOfBox = (box: CellBox | null): number => (box ? (box.right - box.left) * (box.bottom - box.top) : 0);

/** Compares pictures by their cells; holds the room for one comparison at a time. */
export class LightApart {
  private readonly at: Uint32Array;

  constructor(grid: CellGrid) {
    this.at = new Uint32Array(grid.columns * grid.rows);
  }

  /** The cells in which a frame may change when one picture takes another's place, whatever lies below and above; null is no picture. */
  between(first: PictureLight, second: PictureLight | null): CellList {
    const { at } = this;
    const cells: number[] = [];
    if (second) {
      eachCell(first, (cell, from) => {
        at[cell] = from + 1;
      });
      eachCell(second, (cell, from) => {
        const other = (at[cell] as number) - 1;
        at[cell] = 0;
        if (other < 0 || !isSameCell(first.values, other, second.values, from)) cells.push(cell);
      });
    }
    eachCell(first, (cell) => {
      if (!second || at[cell] !== 0) cells.push(cell);
      at[cell] = 0;
    });
    if (cells.length > MOST_LISTED * cellsOfBox(boxAround(first.box, second?.box ?? null))) return null;
    return at.length <= 65536 ? Uint16Array.from(cells) : Uint32Array.from(cells);
  }
}

function eachCell({ spans }: PictureLight, visit: (cell: number, at: number) => void): void {
  let at = 0;
  for (let span = 0; span < spans.length; span += 2) {
    const start = spans[span] as number;
    const end = start + (spans[span + 1] as number);
    for (let cell = start; cell < end; cell++, at += CELL_BYTES) visit(cell, at);
  }
}

function isSameCell(a: Uint8Array, atA: number, b: Uint8Array, atB: number): boolean {
  for (let byte = 0; byte < CELL_BYTES; byte++) if (a[atA + byte] !== b[atB + byte]) return false;
  return true;
}
