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
 * A frame is laid together from the block means of its pictures — a block is a few pixels — and the light of
 * blocks is averaged over cells of 4 × 4 of them.
 */

const LINEAR = Float32Array.from({ length: 256 }, (_, value) => linearOf(value / 255));

/** A channel (0 to 1, gamma-coded as sRGB) as linear light (0 to 1). */
export function linearOf(channel: number): number {
  return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
}

/** Relative luminance of linear red, green and blue. */
export const luminanceOf = (red: number, green: number, blue: number): number => 0.2126 * red + 0.7152 * green + 0.0722 * blue;

const CELL_BLOCKS = 4;

/** Linear red, green and blue of a frame, averaged over square cells of `cellPx` pixels, row by row. */
export type LightCells = {
  readonly columns: number;
  readonly rows: number;
  readonly cellPx: number;
  readonly red: Float32Array;
  readonly green: Float32Array;
  readonly blue: Float32Array;
};

/** A picture of a frame: its block means (null when it is empty), and how it meets what lies below. */
export type BlockLayer = { readonly blocks: BlockMeans | null; readonly opacityPercent: number; readonly blend?: BlendMode | undefined };

function layBlocks(frame: Uint8ClampedArray, frameColumns: number, { blocks, opacityPercent, blend = 'normal' }: BlockLayer): void {
  if (!blocks) return;
  const opacity = opacityPercent / 100;
  for (let row = 0; row < blocks.rows; row++) {
    let to = ((blocks.top + row) * frameColumns + blocks.left) * 3;
    let from = row * blocks.columns * 4;
    for (let column = 0; column < blocks.columns; column++, to += 3, from += 4) {
      const alpha = ((blocks.rgba[from + 3] as number) / 255) * opacity;
      if (alpha === 0) continue;
      for (let channel = 0; channel < 3; channel++) {
        const below = frame[to + channel] as number;
        const source = blocks.rgba[from + channel] as number;
        // Co = αs·B(Cb, Cs) + (1 − αs)·Cb on an opaque backdrop; a mean's colour is already multiplied by its alpha.
        const coloured =
          blend === 'normal'
            ? source * opacity
            : 255 * alpha * BLENDING[blend](below / 255, Math.min(1, (source * opacity) / (alpha * 255)));
        frame[to + channel] = coloured + (1 - alpha) * below;
      }
    }
  }
}

/** The light of pictures laid over each other on white paper, lowest first. */
export function lightOfStack({ width, height }: Size, layers: readonly BlockLayer[]): LightCells {
  const side = blockSide(width, height);
  const blockColumns = Math.ceil(width / side);
  const blockRows = Math.ceil(height / side);
  const frame = new Uint8ClampedArray(blockColumns * blockRows * 3).fill(255);
  for (const layer of layers) layBlocks(frame, blockColumns, layer);
  const columns = Math.ceil(blockColumns / CELL_BLOCKS);
  const rows = Math.ceil(blockRows / CELL_BLOCKS);
  const [red, green, blue] = [new Float32Array(columns * rows), new Float32Array(columns * rows), new Float32Array(columns * rows)];
  for (let row = 0, at = 0; row < blockRows; row++) {
    const cellRow = Math.floor(row / CELL_BLOCKS) * columns;
    const down = Math.min(CELL_BLOCKS, blockRows - Math.floor(row / CELL_BLOCKS) * CELL_BLOCKS);
    for (let column = 0; column < blockColumns; column++, at += 3) {
      const cell = cellRow + Math.floor(column / CELL_BLOCKS);
      const across = Math.min(CELL_BLOCKS, blockColumns - Math.floor(column / CELL_BLOCKS) * CELL_BLOCKS);
      const part = 1 / (down * across);
      red[cell] = (red[cell] as number) + (LINEAR[frame[at] as number] as number) * part;
      green[cell] = (green[cell] as number) + (LINEAR[frame[at + 1] as number] as number) * part;
      blue[cell] = (blue[cell] as number) + (LINEAR[frame[at + 2] as number] as number) * part;
    }
  }
  return { columns, rows, cellPx: side * CELL_BLOCKS, red, green, blue };
}
