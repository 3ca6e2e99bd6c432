import { CELL_BYTES, type CellBox, type CellGrid, type PictureLight } from '@/core/analysis/light';

/** Blocks of cells by number, row by row; null for so many that each block of the box counts as one. */
export type BlockList = Uint16Array | Uint32Array | null;

/** Side of a block, in cells. */
export const BLOCK_CELLS = 2;

/** From this part of a box on, its blocks are not listed one by one. */
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

/** A grid of blocks over one of cells. */
export const blockGrid = ({ columns, rows }: Pick<CellGrid, 'columns' | 'rows'>) => ({
  columns: Math.ceil(columns / BLOCK_CELLS),
  rows: Math.ceil(rows / BLOCK_CELLS),
});

/** The blocks that a box of cells touches. */
export const blocksOf = (box: CellBox): CellBox => ({
  left: Math.floor(box.left / BLOCK_CELLS),
  top: Math.floor(box.top / BLOCK_CELLS),
  right: Math.ceil(box.right / BLOCK_CELLS),
  bottom: Math.ceil(box.bottom / BLOCK_CELLS),
});

function blocksIn(box: CellBox | null): number {
  if (!box) return 0;
  const { left, top, right, bottom } = blocksOf(box);
  return (right - left) * (bottom - top);
}

/** Compares pictures by their cells; holds the room for one comparison at a time. */
export class LightApart {
  private readonly at: Uint32Array;
  private readonly listed: Uint8Array;
  private readonly blockColumns: number;

  constructor(private readonly grid: CellGrid) {
    const blocks = blockGrid(grid);
    this.blockColumns = blocks.columns;
    this.listed = new Uint8Array(blocks.columns * blocks.rows);
    this.at = new Uint32Array(grid.columns * grid.rows);
  }

  /** The blocks with cells in which a frame may change when one picture takes another's place, whatever lies below and above; null is no picture. */
  between(first: PictureLight, second: PictureLight | null): BlockList {
    const { at, listed } = this;
    const blocks: number[] = [];
    const list = (cell: number) => {
      const row = Math.floor(cell / this.grid.columns);
      const block = Math.floor(row / BLOCK_CELLS) * this.blockColumns + Math.floor((cell - row * this.grid.columns) / BLOCK_CELLS);
      if (listed[block] === 1) return;
      listed[block] = 1;
      blocks.push(block);
    };
    if (second) {
      eachCell(first, (cell, from) => {
        at[cell] = from + 1;
      });
      eachCell(second, (cell, from) => {
        const other = (at[cell] as number) - 1;
        at[cell] = 0;
        if (other < 0 || !isSameCell(first.values, other, second.values, from)) list(cell);
      });
    }
    eachCell(first, (cell) => {
      if (!second || at[cell] !== 0) list(cell);
      at[cell] = 0;
    });
    for (const block of blocks) listed[block] = 0;
    if (blocks.length > MOST_LISTED * blocksIn(boxAround(first.box, second?.box ?? null))) return null;
    return listed.length <= 65536 ? Uint16Array.from(blocks) : Uint32Array.from(blocks);
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
