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

/** The 8-bit value whose linear light is nearest, in coded steps; powers are dear, so it is sought among the limits between values. */
function nearestCode(light: number): number {
  let [low, high] = [0, 255];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (light < (BETWEEN[middle] as number)) high = middle;
    else low = middle + 1;
  }
  return low;
}

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
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, size.width * size.height);
  const cells: CellBox = {
    left: Math.floor(box.left / cellPx),
    top: Math.floor(box.top / cellPx),
    right: Math.ceil(box.right / cellPx),
    bottom: Math.ceil(box.bottom / cellPx),
  };
  const across = cells.right - cells.left;
  // Sums of a row of cells: light times alpha, alpha, and pixels that hold anything.
  const sums = new Float64Array(across * CELL_BYTES);
  const spans: number[] = [];
  const values = new Uint8Array(across * (cells.bottom - cells.top) * CELL_BYTES);
  let length = 0;
  for (let row = cells.top; row < cells.bottom; row++) {
    const [firstLine, endLine] = [row * cellPx, Math.min(size.height, (row + 1) * cellPx)];
    sumRows({ words, rgba, width: size.width, cellPx }, firstLine, endLine, cells, sums);
    let spanAt = -1;
    for (let column = cells.left, at = 0; column < cells.right; column++, at += CELL_BYTES) {
      const held = sums[at + 4] as number;
      if (held === 0) {
        spanAt = -1;
        continue;
      }
      if (spanAt < 0) {
        spanAt = spans.length;
        spans.push(row * columns + column, 0);
      }
      spans[spanAt + 1] = (spans[spanAt + 1] as number) + 1;
      const pixels = (endLine - firstLine) * (Math.min(size.width, (column + 1) * cellPx) - column * cellPx);
      const [red, green, blue, alpha] = [sums[at] as number, sums[at + 1] as number, sums[at + 2] as number, sums[at + 3] as number];
      values[length] = nearestCode(red / alpha);
      values[length + 1] = nearestCode(green / alpha);
      values[length + 2] = nearestCode(blue / alpha);
      values[length + 3] = Math.max(1, Math.round((held / pixels) * 255));
      values[length + 4] = Math.max(1, Math.round(alpha / held));
      length += CELL_BYTES;
    }
    sums.fill(0);
  }
  return { spans: Uint32Array.from(spans), values: values.slice(0, length), box: cells };
}

type Pixels = {
  readonly words: Uint32Array;
  readonly rgba: Uint8Array | Uint8ClampedArray;
  readonly width: number;
  readonly cellPx: number;
};

/** Adds up the pixels of a row of cells. Most pixels are as the one before them, whose light is known. */
function sumRows({ words, rgba, width, cellPx }: Pixels, top: number, bottom: number, cells: CellBox, sums: Float64Array): void {
  const lightOf = LINEAR;
  let [lastWord, lastAlpha, lastRed, lastGreen, lastBlue] = [0, 0, 0, 0, 0];
  for (let y = top; y < bottom; y++) {
    const row = y * width;
    for (let column = cells.left, at = 0; column < cells.right; column++, at += CELL_BYTES) {
      const end = row + Math.min(width, (column + 1) * cellPx);
      let [red, green, blue, alpha, held] = [0, 0, 0, 0, 0];
      for (let pixel = row + column * cellPx; pixel < end; pixel++) {
        const word = words[pixel] as number;
        if (word === 0) continue;
        if (word !== lastWord) {
          const from = pixel * 4;
          lastWord = word;
          lastAlpha = rgba[from + 3] as number;
          lastRed = (lightOf[rgba[from] as number] as number) * lastAlpha;
          lastGreen = (lightOf[rgba[from + 1] as number] as number) * lastAlpha;
          lastBlue = (lightOf[rgba[from + 2] as number] as number) * lastAlpha;
        }
        if (lastAlpha === 0) continue;
        red += lastRed;
        green += lastGreen;
        blue += lastBlue;
        alpha += lastAlpha;
        held++;
      }
      if (held === 0) continue;
      sums[at] = (sums[at] as number) + red;
      sums[at + 1] = (sums[at + 1] as number) + green;
      sums[at + 2] = (sums[at + 2] as number) + blue;
      sums[at + 3] = (sums[at + 3] as number) + alpha;
      sums[at + 4] = (sums[at + 4] as number) + held;
    }
  }
}
