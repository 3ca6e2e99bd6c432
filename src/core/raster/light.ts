import { BLENDING } from '@/core/raster/blend';
import type { BlockMeans } from '@/core/raster/measure';
import { blockSide } from '@/core/raster/signature';
import type { BlendMode, Size } from '@/core/sheet/document';

/*
 * The light a frame gives, for telling flashes: relative luminance is a sum of linear red, green and blue
 * (WCAG 2.2, "relative luminance", after IEC 61966-2-1): with C = c/255,
 *   linear = C / 12.92                     for C ≤ 0.04045
 *   linear = ((C + 0.055) / 1.055) ^ 2.4   above
 *   L = 0.2126 R + 0.7152 G + 0.0722 B
 * Light is averaged over cells of 4 × 4 blocks of a picture, each block a few pixels. Of each picture a cell holds
 * how much of it is covered, and the light of what covers it; a frame is laid together cell by cell. That is
 * exact where a cell is of one colour, and a mean of means where edges of several levels cross it.
 */

/** A channel (0 to 1, gamma-coded as sRGB) as linear light (0 to 1). */
export function linearOf(channel: number): number {
  return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
}

const codedOf = (linear: number): number => (linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055);

const LINEAR = Float32Array.from({ length: 256 }, (_, value) => linearOf(value / 255));

/** Relative luminance of linear red, green and blue. */
export const luminanceOf = (red: number, green: number, blue: number): number => 0.2126 * red + 0.7152 * green + 0.0722 * blue;

const CELL_BLOCKS = 4;

/** The grid of cells a frame of a size is averaged over; cells are squares of `cellPx` pixels. */
export type CellGrid = { readonly columns: number; readonly rows: number; readonly cellPx: number };

export function cellGrid({ width, height }: Size): CellGrid {
  const cellPx = blockSide(width, height) * CELL_BLOCKS;
  return { columns: Math.ceil(width / cellPx), rows: Math.ceil(height / cellPx), cellPx };
}

/** Linear red, green and blue of a frame, and its relative luminance, averaged over cells, row by row. */
export type LightCells = CellGrid & {
  readonly red: Float32Array;
  readonly green: Float32Array;
  readonly blue: Float32Array;
  readonly luminance: Float32Array;
};

/** What a picture does to cells: how much of each it covers (0 to 1), and the linear light of that part times its cover. */
export type PictureCells = {
  /** R G B and cover of each cell. */
  readonly rgba: Float32Array;
  /** Relative luminance, times cover, of each cell. */
  readonly luminance: Float32Array;
  readonly cover: Float32Array;
  /** The greatest part red has of the light of any cell. */
  readonly mostRed: number;
};

/** A picture's cells from its block means; all uncovered for an empty picture. */
export function cellsOfPicture(size: Size, blocks: BlockMeans | null): PictureCells {
  const { columns, rows, cellPx } = cellGrid(size);
  const cells = new Float32Array(columns * rows * 4);
  const side = cellPx / CELL_BLOCKS;
  const [blockColumns, blockRows] = [Math.ceil(size.width / side), Math.ceil(size.height / side)];
  for (let y = 0, at = 0; y < (blocks?.rows ?? 0); y++) {
    const row = y + (blocks as BlockMeans).top;
    const cellRow = Math.floor(row / CELL_BLOCKS);
    const down = Math.min(CELL_BLOCKS, blockRows - cellRow * CELL_BLOCKS);
    for (let x = 0; x < (blocks as BlockMeans).columns; x++, at += 4) {
      const { rgba, left } = blocks as BlockMeans;
      const alpha = rgba[at + 3] as number;
      if (alpha === 0) continue;
      const column = x + left;
      const cellColumn = Math.floor(column / CELL_BLOCKS);
      const part = 1 / (down * Math.min(CELL_BLOCKS, blockColumns - cellColumn * CELL_BLOCKS));
      const cover = (alpha / 255) * part;
      const to = (cellRow * columns + cellColumn) * 4;
      for (let channel = 0; channel < 3; channel++) {
        const straight = Math.min(255, Math.round(((rgba[at + channel] as number) * 255) / alpha));
        cells[to + channel] = (cells[to + channel] as number) + (LINEAR[straight] as number) * cover;
      }
      cells[to + 3] = (cells[to + 3] as number) + cover;
    }
  }
  return withLuminance(cells);
}

function withLuminance(rgba: Float32Array): PictureCells {
  const luminance = new Float32Array(rgba.length / 4);
  const cover = new Float32Array(rgba.length / 4);
  let mostRed = 0;
  for (let cell = 0, at = 0; at < rgba.length; cell++, at += 4) {
    const [red, green, blue] = [rgba[at] as number, rgba[at + 1] as number, rgba[at + 2] as number];
    luminance[cell] = luminanceOf(red, green, blue);
    cover[cell] = rgba[at + 3] as number;
    if (red > 0) mostRed = Math.max(mostRed, red / (red + green + blue));
  }
  return { rgba, luminance, cover, mostRed };
}

/** Less cover, and less light, than this between two pictures leaves a cell as it was. */
const LEAST_APART = 0.002;

/** The cells in which a frame changes when one picture stands in another's place; null is no picture. */
export function cellsApart(first: PictureCells | null, second: PictureCells | null): Uint16Array {
  const cells = (first ?? second)?.rgba.length ?? 0;
  const apart: number[] = [];
  for (let at = 0; at < cells; at += 4) {
    for (let channel = at; channel < at + 4; channel++) {
      const difference = (first?.rgba[channel] ?? 0) - (second?.rgba[channel] ?? 0);
      if (difference > LEAST_APART || difference < -LEAST_APART) {
        apart.push(at >> 2);
        break;
      }
    }
  }
  return Uint16Array.from(apart);
}

/** A picture of a frame, and how it meets what lies below. */
export type CellLayer = { readonly cells: PictureCells; readonly opacityPercent: number; readonly blend?: BlendMode | undefined };

/** Light of white paper under pictures that lie over each other. */
export const paperLight = (grid: CellGrid): LightCells => {
  const white = () => new Float32Array(grid.columns * grid.rows).fill(1);
  return { ...grid, red: white(), green: white(), blue: white(), luminance: white() };
};

/*
 * Where a layer covers a part a of a cell, that part shows the layer over what lies below and the rest shows
 * what lies below: L = a·l + (1 − a)·L_below. A layer that is half-transparent or blends meets what is below
 * in coded values, as canvases and films do: l = linear((1 − o)·c_below + o·B(c_below, c)).
 */
function laidChannel(below: number, light: number, cover: number, opacity: number, blend: BlendMode): number {
  if (opacity === 1 && blend === 'normal') return light + (1 - cover) * below;
  const [backdrop, source] = [codedOf(below), codedOf(Math.min(1, light / cover))];
  return cover * linearOf((1 - opacity) * backdrop + opacity * BLENDING[blend](backdrop, source)) + (1 - cover) * below;
}

/** Lays some cells of a frame anew on white paper, lowest layer first, in place. */
export function layCells({ red, green, blue, luminance }: LightCells, layers: readonly CellLayer[], cells: Iterable<number>): void {
  for (const cell of cells) {
    let [r, g, b] = [1, 1, 1];
    const at = cell * 4;
    for (const layer of layers) {
      const cover = layer.cells.cover[cell] as number;
      if (cover === 0) continue;
      const [opacity, blend] = [layer.opacityPercent / 100, layer.blend ?? 'normal'];
      r = laidChannel(r, layer.cells.rgba[at] as number, cover, opacity, blend);
      g = laidChannel(g, layer.cells.rgba[at + 1] as number, cover, opacity, blend);
      b = laidChannel(b, layer.cells.rgba[at + 2] as number, cover, opacity, blend);
    }
    red[cell] = r;
    green[cell] = g;
    blue[cell] = b;
    luminance[cell] = luminanceOf(r, g, b);
  }
}

/** Whether a layer covers what lies below it, or leaves it as it is: then its light can be laid without its colours. */
export const isPlain = ({ opacityPercent, blend = 'normal' }: CellLayer): boolean => opacityPercent === 100 && blend === 'normal';

/** Lays the luminance alone of some cells anew, of layers that are all plain: luminance is a sum, and lies as light does. */
export function layLuminance({ luminance }: LightCells, layers: readonly CellLayer[], cells: ArrayLike<number>): void {
  const covers = layers.map((layer) => layer.cells.cover);
  const lights = layers.map((layer) => layer.cells.luminance);
  for (let index = 0; index < cells.length; index++) {
    const cell = cells[index] as number;
    let light = 1;
    for (let layer = 0; layer < covers.length; layer++) {
      const covered = (covers[layer] as Float32Array)[cell] as number;
      if (covered !== 0) light = ((lights[layer] as Float32Array)[cell] as number) + (1 - covered) * light;
    }
    luminance[cell] = light;
  }
}

/** Every cell of a grid. */
export const everyCell = ({ columns, rows }: CellGrid): Uint16Array => Uint16Array.from({ length: columns * rows }, (_, cell) => cell);
