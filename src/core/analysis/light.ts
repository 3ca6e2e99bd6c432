import { compiledMeasures } from '@/core/analysis/compiledMeasures';
import type { Size } from '@/core/document/model';
import type { Box } from '@/core/raster/bounds';

/*
 * The light a picture gives, for telling flashes: relative luminance is a sum of linear red, green and blue
 * (WCAG 2.2, "relative luminance", after IEC 61966-2-1): with C = c/255,
 *   linear = C / 12.92                     for C ≤ 0.04045
 *   linear = ((C + 0.055) / 1.055) ^ 2.4   above
 *   L = 0.2126 R + 0.7152 G + 0.0722 B
 * Light is averaged, as light, over square cells no wider than 0.1° of the visual field, 3.41 px of a screen of
 * 1024 × 768 on which 341 px are 10°: what averages out within that is a "fine, balanced pattern" that the
 * criterion leaves out ("squares smaller than 0.1 degree on a side").
 */

/** A channel (0 to 1, gamma-coded as sRGB) as linear light (0 to 1). */
export function linearOf(channel: number): number {
  return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
}

/** Linear light (0 to 1) as a channel (0 to 1, gamma-coded as sRGB). */
export const codedOf = (linear: number): number => (linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055);

/** Linear light of each 8-bit channel value. */
export const LINEAR = Float32Array.from({ length: 256 }, (_, value) => linearOf(value / 255));

// Linear light half way between each two neighbouring 8-bit values, in coded steps: what decides which is nearer.
const BETWEEN = Float64Array.from({ length: 255 }, (_, value) => linearOf((value + 0.5) / 255));

/** Relative luminance of linear red, green and blue. */
export const luminanceOf = (red: number, green: number, blue: number): number => 0.2126 * red + 0.7152 * green + 0.0722 * blue;

/** The screen the criterion reckons on, in pixels. */
const SCREEN = { width: 1024, height: 768 };
const FINEST_SCREEN_PX = 3.41;

/** How many pixels of the criterion's screen one pixel of a film takes, seen as large as it goes. */
export const screenScale = ({ width, height }: Size): number => Math.min(SCREEN.width / width, SCREEN.height / height);

/** The grid of cells a frame of a size is averaged over; cells are squares of `cellPx` pixels. */
export type CellGrid = { readonly columns: number; readonly rows: number; readonly cellPx: number };

export function cellGrid(size: Size): CellGrid {
  const cellPx = Math.max(1, Math.floor(FINEST_SCREEN_PX / screenScale(size)));
  return { columns: Math.ceil(size.width / cellPx), rows: Math.ceil(size.height / cellPx), cellPx };
}

/** Cells from `left` and `top` (inclusive) to `right` and `bottom` (exclusive). */
export type CellBox = { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };

/** A span is two numbers of 4 bytes. */
const SPAN_BYTES = 8;

/** Bytes a covered cell takes: straight R G B coded as sRGB, how much of it is covered, and how opaque that part is. */
export const CELL_BYTES = 5;

/**
 * What a picture does to cells: only those it covers. `spans` are pairs of the first cell and how many follow each
 * other in a row; `values` holds CELL_BYTES for each covered cell in order.
 */
export type PictureLight = {
  readonly spans: Uint32Array;
  readonly values: Uint8Array;
  readonly box: CellBox | null;
};

const NO_LIGHT: PictureLight = { spans: new Uint32Array(0), values: new Uint8Array(0), box: null };

/** A picture's light by cells, from its pixels (RGBA, straight alpha, row by row); `box` holds all that are not empty. */
export function lightOfPicture(size: Size, rgba: Uint8Array | Uint8ClampedArray, box: Box | null): PictureLight {
  if (!box) return NO_LIGHT;
  const { columns, cellPx } = cellGrid(size);
  const cells: CellBox = {
    left: Math.floor(box.left / cellPx),
    top: Math.floor(box.top / cellPx),
    right: Math.ceil(box.right / cellPx),
    bottom: Math.ceil(box.bottom / cellPx),
  };
  const [across, down] = [cells.right - cells.left, cells.bottom - cells.top];
  // The memory: limits between values, light of values, spans (at most every other cell begins one), the pixels, what cells hold.
  const linear = BETWEEN.byteLength;
  const spans = linear + LINEAR.byteLength;
  const pixels = spans + Math.ceil(across / 2) * down * SPAN_BYTES;
  const values = pixels + size.width * size.height * 4;
  const { functions, memory } = compiledMeasures.withRoom(values + across * down * CELL_BYTES);
  new Float64Array(memory.buffer, 0, BETWEEN.length).set(BETWEEN);
  new Float32Array(memory.buffer, linear, LINEAR.length).set(LINEAR);
  memory.set(rgba.subarray(0, values - pixels), pixels);
  const { left, top, right, bottom } = cells;
  const found = functions.light(pixels, size.width, size.height, cellPx, columns, left, top, right, bottom, linear, 0, spans, values);
  const ofSpans = new Uint32Array(memory.buffer, spans, found * 2).slice();
  const held = ofSpans.reduce((sum, number, place) => (place % 2 === 1 ? sum + number : sum), 0);
  return { spans: ofSpans, values: memory.slice(values, values + held * CELL_BYTES), box: cells };
}
