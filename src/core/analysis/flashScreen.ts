import { fieldOn, WHOLE_CELL } from '@/core/analysis/flashField';
import { TOO_MANY_FLASHES } from '@/core/analysis/flashRule';
import type { LightLayer } from '@/core/analysis/layLight';
import { type CellBox, type CellGrid, cellGrid, type PictureLight } from '@/core/analysis/light';
import { BLOCK_CELLS, type BlockList, blockGrid, blocksOf, boxAround, LightApart } from '@/core/analysis/lightApart';
import type { Size } from '@/core/document/model';
import type { RenderRun } from '@/core/render/renderPlan';

/** A picture of the film, with where others differ from it, null where they don't; null for a picture stands for none. */
export type LitPicture = { readonly light: PictureLight; readonly apart: Map<LitPicture | null, ChangedPart | null> };

/** A layer of a stack; equal ones are one and the same, so that they are compared at once. */
export type ShownLayer = LightLayer & { readonly shown: LitPicture };

/** Where a frame may change from one stack to the next: blocks of cells of each layer that comes, goes or is exchanged, and the box around them all. */
export type StackChange = { readonly parts: readonly ChangedPart[]; readonly box: CellBox | null };
type ChangedPart = { readonly blocks: BlockList; readonly box: CellBox };

export const NO_CHANGE: StackChange = { parts: [], box: null };

/** Runs from (inclusive) and to (exclusive) that are to be walked. */
export type Walk = { readonly fromRun: number; readonly toRun: number };

/** A cell turns so often to flash too often, and no more often than it changes. */
const TURNS = TOO_MANY_FLASHES * 2;
const TILE_CELLS = 8;
const TILE_BLOCKS = TILE_CELLS / BLOCK_CELLS;
const CELLS_A_BLOCK = BLOCK_CELLS * BLOCK_CELLS;

/**
 * Tells which runs of a film may hold too many flashes, without laying a frame: those in which so many cells
 * change on at least eight frames within a second that they take more than a quarter of the rectangle at one of its
 * places. Cells are counted by blocks, of which each cell may be meant, and these by tiles; the rectangle lies on all
 * tiles that one of its places touches.
 */
export class FlashScreen {
  private readonly grid: CellGrid;
  private readonly apart: LightApart;
  private readonly recent: Uint16Array;
  private readonly blockColumns: number;
  private readonly columns: number;
  private readonly rows: number;
  private readonly inTiles: Uint16Array;
  private readonly sums: Uint32Array;
  private readonly across: number;
  private readonly down: number;
  private readonly quarterCells: number;
  private inAll = 0;

  constructor(size: Size) {
    this.grid = cellGrid(size);
    this.apart = new LightApart(this.grid);
    const blocks = blockGrid(this.grid);
    this.blockColumns = blocks.columns;
    this.recent = new Uint16Array(blocks.columns * blocks.rows);
    this.columns = Math.ceil(this.grid.columns / TILE_CELLS);
    this.rows = Math.ceil(this.grid.rows / TILE_CELLS);
    this.inTiles = new Uint16Array(this.columns * this.rows);
    this.sums = new Uint32Array((this.columns + 1) * (this.rows + 1));
    const field = fieldOn(size, this.grid);
    this.across = Math.min(this.columns, Math.ceil((field.columns - 1) / TILE_CELLS) + 1);
    this.down = Math.min(this.rows, Math.ceil((field.rows - 1) / TILE_CELLS) + 1);
    this.quarterCells = field.quarterWeight / WHOLE_CELL;
  }

  /** Where two layers differ, worked out once for each two pictures: a feature film asks for it hundreds of thousands of times. */
  private part(first: ShownLayer, second: ShownLayer | null): ChangedPart | null {
    const other = second?.shown ?? null;
    let part = first.shown.apart.get(other);
    if (part === undefined) {
      const blocks = this.apart.between(first.light, other?.light ?? null);
      const box = boxAround(first.light.box, other?.light.box ?? null);
      part = box && blocks?.length !== 0 ? { blocks, box } : null;
      first.shown.apart.set(other, part);
    }
    return part;
  }

  /** What may change from one stack to the next: only layers between those that are the same at either end can change anything. */
  changeBetween(before: readonly ShownLayer[], now: readonly ShownLayer[]): StackChange {
    let start = 0;
    while (start < before.length && start < now.length && before[start] === now[start]) start++;
    let same = 0;
    const most = Math.min(before.length, now.length) - start;
    while (same < most && before[before.length - 1 - same] === now[now.length - 1 - same]) same++;
    const [gone, come] = [before.slice(start, before.length - same), now.slice(start, now.length - same)];
    const parts: ChangedPart[] = [];
    const add = (part: ChangedPart | null) => {
      if (part) parts.push(part);
    };
    for (let index = 0; index < Math.max(gone.length, come.length); index++) {
      const [layer, other] = [gone[index], come[index]];
      const isExchange = gone.length === come.length && layer?.opacityPercent === other?.opacityPercent && layer?.blend === other?.blend;
      if (!isExchange || !layer || !other) for (const one of [layer, other]) add(one ? this.part(one, null) : null);
      else if (layer !== other) add(this.part(layer, other));
    }
    let box: CellBox | null = null;
    for (const part of parts) box = boxAround(box, part.box);
    return { parts, box };
  }

  private count({ parts }: StackChange, sign: 1 | -1): void {
    for (const { blocks, box } of parts) {
      if (blocks) this.countBlocks(blocks, sign);
      else {
        const { left, top, right, bottom } = blocksOf(box);
        for (let row = top; row < bottom; row++) this.countRow(row * this.blockColumns + left, row * this.blockColumns + right, sign);
      }
    }
  }

  // Millions of blocks are counted for each look at a film: the two loops are kept as plain as they are.
  private countBlocks(blocks: Uint16Array | Uint32Array, sign: 1 | -1): void {
    const { recent } = this;
    const limit = sign === 1 ? TURNS : TURNS - 1;
    for (let index = 0; index < blocks.length; index++) {
      const block = blocks[index] as number;
      const count = (recent[block] as number) + sign;
      recent[block] = count;
      if (count === limit) this.countInTile(block, sign);
    }
  }

  private countRow(from: number, to: number, sign: 1 | -1): void {
    const { recent } = this;
    const limit = sign === 1 ? TURNS : TURNS - 1;
    for (let block = from; block < to; block++) {
      const count = (recent[block] as number) + sign;
      recent[block] = count;
      if (count === limit) this.countInTile(block, sign);
    }
  }

  /** A block now changes often enough, or no longer. */
  private countInTile(block: number, sign: 1 | -1): void {
    const row = Math.floor(block / this.blockColumns);
    const tile = Math.floor(row / TILE_BLOCKS) * this.columns + Math.floor((block - row * this.blockColumns) / TILE_BLOCKS);
    this.inTiles[tile] = (this.inTiles[tile] as number) + sign * CELLS_A_BLOCK;
    this.inAll += sign * CELLS_A_BLOCK;
  }

  /** Whether cells that change often enough now take more than a quarter of the rectangle. */
  private mayFlash(): boolean {
    if (this.inAll <= this.quarterCells) return false;
    const { columns, rows, sums, across, down } = this;
    const stride = columns + 1;
    for (let row = 0; row < rows; row++) {
      let line = 0;
      for (let column = 0; column < columns; column++) {
        line += this.inTiles[row * columns + column] as number;
        sums[(row + 1) * stride + column + 1] = (sums[row * stride + column + 1] as number) + line;
      }
    }
    for (let top = 0; top + down <= rows; top++) {
      for (let left = 0; left + across <= columns; left++) {
        const [upper, lower] = [top * stride + left, (top + down) * stride + left];
        const inPlace =
          (sums[lower + across] as number) - (sums[lower] as number) - (sums[upper + across] as number) + (sums[upper] as number);
        if (inPlace > this.quarterCells) return true;
      }
    }
    return false;
  }

  /** What of a film has to be walked. `changeOf` is asked once for each run but the first, in order: no more than those of a second are held. */
  walks(runs: readonly RenderRun[], changeOf: (run: number) => StackChange, framesPerSecond: number): readonly Walk[] {
    this.recent.fill(0);
    this.inTiles.fill(0);
    this.inAll = 0;
    const walks: Walk[] = [];
    const counted: StackChange[] = [];
    let first = 1;
    for (let last = 1; last < runs.length; last++) {
      const change = changeOf(last);
      counted.push(change);
      this.count(change, 1);
      while ((runs[last] as RenderRun).startFrame - (runs[first] as RenderRun).startFrame > framesPerSecond) {
        this.count(counted.shift() as StackChange, -1);
        first++;
      }
      if (!this.mayFlash()) continue;
      const before = walks.at(-1);
      if (before && first - 1 <= before.toRun) walks[walks.length - 1] = { fromRun: before.fromRun, toRun: last + 1 };
      else walks.push({ fromRun: first - 1, toRun: last + 1 });
    }
    return walks;
  }
}
