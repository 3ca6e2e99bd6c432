import type { Size } from '@/core/document/model';
import { awayFromWalls, edgesOf, letGoOfDistances } from '@/core/raster/compiledDistances';

/*
 * Area fill. The pixels a colour can run over are those like the one it starts on; every other is a wall.
 * A gap in a wall is closed by looking at walls as if they were thicker: with gaps up to g px to be closed,
 * colour runs only where the nearest wall is further away than r = ⌈g/2⌉ px, which it can't be anywhere in
 * a gap of g px. What was reached is then grown back by r towards the walls, around them and not through
 * them. Distances are chamfer distances with the weights 3 and 4 (Borgefors 1986), within 8 % of the true ones.
 */

/** What may be filled: pixels that differ by at most `tolerance` (0–255, in every premultiplied channel) from the one pressed on. */
export type FillOptions = { readonly tolerance: number; readonly closesGapsPx: number };

/** Of a distance to a wall, for each pixel straight on. */
const STEP = 3;
/** Thirds of a pixel to a wall that are told apart. */
const MOST = 249;

/** The pixels an area fill reaches: 1 where colour comes, row by row. All 0 when `x`, `y` lie outside. */
export function filledArea(size: Size, rgba: Uint8ClampedArray | Uint8Array, x: number, y: number, options: FillOptions): Uint8Array {
  const { width, height } = size;
  if (x < 0 || y < 0 || x >= width || y >= height) return new Uint8Array(width * height);
  const free = likePixel(rgba, width * height, y * width + x, options.tolerance);
  const seed = y * width + x;
  if (options.closesGapsPx <= 0) return runOver(size, free, seed);
  // Pressed on closer to a wall than that, as between two lines: gaps are closed as far as colour still fits there.
  const { open, reach } = awayFromWalls(size, free, seed, Math.min(Math.ceil(options.closesGapsPx / 2) * STEP, MOST));
  const area = runOver(size, open, seed);
  growBack(size, area, free, reach);
  letGoOfDistances();
  return area;
}

/** 1 for pixels like the one at `seed`. Fully transparent pixels are alike, whatever colour they hide. */
function likePixel(rgba: Uint8ClampedArray | Uint8Array, pixels: number, seed: number, tolerance: number): Uint8Array {
  const free = new Uint8Array(pixels);
  // Most pixels of a page are the very same value: those need no sums.
  const values = new Uint32Array(rgba.buffer, rgba.byteOffset, pixels);
  const seedValue = values[seed] as number;
  const seedAlpha = rgba[seed * 4 + 3] as number;
  const [red, green, blue] = [0, 1, 2].map((channel) => ((rgba[seed * 4 + channel] as number) * seedAlpha) / 255) as [
    number,
    number,
    number,
  ];
  let lastValue = seedValue;
  let lastLike: 0 | 1 = 1;
  for (let index = 0; index < pixels; index++) {
    const value = values[index] as number;
    if (value !== lastValue) {
      lastValue = value;
      const at = index * 4;
      const alpha = rgba[at + 3] as number;
      lastLike =
        Math.abs(alpha - seedAlpha) <= tolerance &&
        Math.abs(((rgba[at] as number) * alpha) / 255 - red) <= tolerance &&
        Math.abs(((rgba[at + 1] as number) * alpha) / 255 - green) <= tolerance &&
        Math.abs(((rgba[at + 2] as number) * alpha) / 255 - blue) <= tolerance
          ? 1
          : 0;
    }
    free[index] = lastLike;
  }
  return free;
}

/** The pixels that hang together with `seed` by their sides, found row by row; `free` is used up. The search for where a run ends is left to the engine, which looks at many bytes at once. */
function runOver({ width, height }: Size, free: Uint8Array, seed: number): Uint8Array {
  const area = new Uint8Array(free.length);
  if (free[seed] !== 1) return area;
  const waiting: number[] = [seed];
  /** Runs of free pixels from one index (inclusive) to another (exclusive) wait, by their first pixel there. */
  const wait = (from: number, to: number) => {
    const part = free.subarray(from, to);
    for (let at = part.indexOf(1); at !== -1; at = part.indexOf(1, at)) {
      waiting.push(from + at);
      at = part.indexOf(0, at);
      if (at === -1) return;
    }
  };
  for (let start = waiting.pop(); start !== undefined; start = waiting.pop()) {
    if (free[start] !== 1) continue;
    const row = Math.floor(start / width);
    const rowStart = row * width;
    const from = rowStart + free.subarray(rowStart, start).lastIndexOf(0) + 1;
    const wall = free.subarray(start, rowStart + width).indexOf(0);
    const to = wall === -1 ? rowStart + width : start + wall;
    area.fill(1, from, to);
    free.fill(0, from, to);
    if (row > 0) wait(from - width, to - width);
    if (row < height - 1) wait(from + width, to + width);
  }
  return area;
}

/**
 * Grows an area over free pixels until it is `reach` (in thirds of a pixel) wider. Growth goes by rings, to
 * the sides and in every second ring to the corners too, which makes an octagon; never between two walls
 * that touch by a corner.
 */
function growBack({ width, height }: Size, area: Uint8Array, free: Uint8Array, reach: number): void {
  let edge = edgesOf({ width, height }, area);
  for (let ring = 0; ring < Math.ceil(reach / STEP) + 1 && edge.length > 0; ring++) {
    const next: number[] = [];
    const take = (index: number) => {
      if (area[index] === 1 || free[index] !== 1) return;
      area[index] = 1;
      next.push(index);
    };
    for (const index of edge) {
      const x = index % width;
      const y = Math.floor(index / width);
      const [left, right, up, down] = [x > 0, x < width - 1, y > 0, y < height - 1];
      if (left) take(index - 1);
      if (right) take(index + 1);
      if (up) take(index - width);
      if (down) take(index + width);
      if (ring % 2 === 0) continue;
      const corner = (there: boolean, side: number, upright: number) => {
        if (there && free[index + side] === 1 && free[index + upright] === 1) take(index + side + upright);
      };
      corner(left && up, -1, -width);
      corner(right && up, 1, -width);
      corner(left && down, -1, width);
      corner(right && down, 1, width);
    }
    edge = next;
  }
}
