import type { Blocks } from '@/core/outside/look';
import { blocksOnPaper } from '@/core/raster/compiledPlanes';
import { signatureOfPixels } from '@/core/raster/pictureSignature';
import { blockSide } from '@/core/raster/signature';

/*
 * A picture's blocks are its signature (`@/core/raster/signature`): means of squares of brightness, and of the same squares of
 * each colour difference, by ITU-R BT.709 in limited range.
 */

/** Lays straight pixels (RGBA) on white paper, in place: films have paper beneath them, too. */
export function onPaper(rgba: Uint8Array | Uint8ClampedArray): void {
  for (let at = 3; at < rgba.length; at += 4) {
    const alpha = rgba[at] as number;
    if (alpha === 255) continue;
    for (let channel = at - 3; channel < at; channel++) {
      rgba[channel] = Math.round(((rgba[channel] as number) * alpha) / 255 + 255 - alpha);
    }
    rgba[at] = 255;
  }
}

/** What decoding rounds off is within this, where a pixel is not all but clear. */
const ROUNDED_OFF = 16;

/**
 * Lays pixels (RGBA) on white paper as if their colours had been multiplied by how opaque they are, in place. Gives whether colours
 * are brighter than those can be: then they were straight.
 */
export function premultipliedOnPaper(rgba: Uint8Array | Uint8ClampedArray): boolean {
  let isBrighter = false;
  for (let at = 3; at < rgba.length; at += 4) {
    const alpha = rgba[at] as number;
    if (alpha === 255) continue;
    for (let channel = at - 3; channel < at; channel++) {
      const value = rgba[channel] as number;
      isBrighter ||= alpha >= ROUNDED_OFF && value > alpha + ROUNDED_OFF;
      rgba[channel] = Math.min(255, value + 255 - alpha);
    }
    rgba[at] = 255;
  }
  return isBrighter;
}

/** The grid of blocks a picture of a size is brought down to. */
export function blockGrid(width: number, height: number): { readonly columns: number; readonly rows: number } {
  const side = blockSide(width, height);
  return { columns: Math.ceil(width / side), rows: Math.ceil(height / side) };
}

/** A picture of opaque pixels as blocks. */
export function blocksOfPixels(width: number, height: number, rgba: Uint8Array): Blocks {
  // Odd sides are made even by showing the last column and row twice.
  const grid = blockGrid(width + (width % 2), height + (height % 2));
  return { ...grid, planes: signatureOfPixels(width, height, rgba, false) };
}

/** Blocks of straight pixels (RGBA), one pixel a block, laid on paper. */
export const blocksOfRgba = (columns: number, rows: number, pixels: Uint8Array): Blocks => ({
  columns,
  rows,
  planes: blocksOnPaper(pixels, columns, rows, 4, 1),
});
