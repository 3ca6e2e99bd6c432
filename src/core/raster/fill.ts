import type { Size } from '@/core/document/model';

/*
 * Area fill. The pixels a colour can run over are those like the one it starts on; every other is a wall.
 * A gap in a wall is closed by looking at walls as if they were thicker: with gaps up to g px to be closed,
 * colour runs only where the nearest wall is further away than r = ⌈g/2⌉ px, which it can't be anywhere in
 * a gap of g px. What was reached is then grown back by r towards the walls, around them and not through
 * them. Distances are chamfer distances with the weights 3 and 4 (Borgefors 1986), within 8 % of the true ones.
 */

/** What may be filled: pixels that differ by at most `tolerance` (0–255, in every premultiplied channel) from the one pressed on. */
export type FillOptions = { readonly tolerance: number; readonly closesGapsPx: number };

const STEP = 3;
const DIAGONAL = 4;
/** As far as is told apart: further than any gap reaches, and with room in a byte for one more step. */
const FAR = 250;

/** The pixels an area fill reaches: 1 where colour comes, row by row. All 0 when `x`, `y` lie outside. */
export function filledArea(size: Size, rgba: Uint8ClampedArray | Uint8Array, x: number, y: number, options: FillOptions): Uint8Array {
  const { width, height } = size;
  if (x < 0 || y < 0 || x >= width || y >= height) return new Uint8Array(width * height);
  const free = likePixel(rgba, width * height, y * width + x, options.tolerance);
  const seed = y * width + x;
  if (options.closesGapsPx <= 0) return runOver(size, free, seed);
  const distance = distanceToWalls(size, free);
  // Pressed on closer to a wall than that, as between two lines: gaps are closed as far as colour still fits there.
  const reach = Math.min(Math.ceil(options.closesGapsPx / 2) * STEP, Math.max(0, (distance[seed] as number) - 1));
  const open = new Uint8Array(free.length);
  for (let index = 0; index < free.length; index++) open[index] = (distance[index] as number) > reach ? 1 : 0;
  const area = runOver(size, open, seed);
  growBack(size, area, free, reach);
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

/** Three times the chamfer distance of every free pixel to the nearest wall, `FAR` at most; 0 on walls. The page's edge is no wall. */
function distanceToWalls({ width, height }: Size, free: Uint8Array): Uint8Array {
  // A border of one far pixel around the page spares every neighbour the question whether it is there.
  const stride = width + 2;
  const padded = new Uint8Array(stride * (height + 2)).fill(FAR);
  for (let y = 0, index = 0; y < height; y++)
    for (let x = 0, at = (y + 1) * stride + 1; x < width; x++, index++, at++) if (free[index] !== 1) padded[at] = 0;
  const sweep = (from: number, to: number, by: 1 | -1) => {
    const [beside, above, corner, otherCorner] = [-by, -by * stride, -by * stride - by, -by * stride + by];
    for (let at = from; at !== to; at += by) {
      const distance = padded[at] as number;
      if (distance === 0) continue;
      const side = Math.min(padded[at + beside] as number, padded[at + above] as number) + STEP;
      const slant = Math.min(padded[at + corner] as number, padded[at + otherCorner] as number) + DIAGONAL;
      const least = Math.min(side, slant);
      if (least < distance) padded[at] = least;
    }
  };
  for (let y = 1; y <= height; y++) sweep(y * stride + 1, y * stride + 1 + width, 1);
  for (let y = height; y >= 1; y--) sweep(y * stride + width, y * stride, -1);
  const distance = new Uint8Array(free.length);
  for (let y = 0; y < height; y++) distance.set(padded.subarray((y + 1) * stride + 1, (y + 1) * stride + 1 + width), y * width);
  return distance;
}

/**
 * Grows an area over free pixels until it is `reach` (in thirds of a pixel) wider. Growth goes by rings, to
 * the sides and in every second ring to the corners too, which makes an octagon; never between two walls
 * that touch by a corner.
 */
function growBack({ width, height }: Size, area: Uint8Array, free: Uint8Array, reach: number): void {
  let edge: number[] = [];
  for (let y = 0, index = 0; y < height; y++) {
    for (let x = 0; x < width; x++, index++) {
      if (area[index] !== 1) continue;
      // Beyond the page an index of the list is undefined, which is no 0.
      if (
        (x > 0 && area[index - 1] === 0) ||
        (x < width - 1 && area[index + 1] === 0) ||
        area[index - width] === 0 ||
        area[index + width] === 0
      )
        edge.push(index);
    }
  }
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

/**
 * Lays a colour (`#rrggbb`) on an area of a picture (RGBA, straight alpha), in place. Where colour comes it
 * replaces what was there; one pixel further, within the walls' soft edges, it lies below what is drawn, so
 * that no pale seam stays between colour and line.
 */
export function layColour({ width }: Size, rgba: Uint8ClampedArray, area: Uint8Array, colour: string): void {
  const channels = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16));
  const pixels = new Uint32Array(rgba.buffer, rgba.byteOffset, area.length);
  const [whole] = new Uint32Array(new Uint8Array([...channels, 255]).buffer);
  for (let index = 0; index < area.length; index++) {
    if (area[index] === 1) {
      const end = area.indexOf(0, index);
      const to = end === -1 ? area.length : end;
      pixels.fill(whole as number, index, to);
      index = to - 1;
      continue;
    }
    if (pixels[index] === 0) continue;
    const at = index * 4;
    if (rgba[at + 3] === 0) continue;
    const x = index % width;
    const beside =
      area[index - width] === 1 ||
      area[index + width] === 1 ||
      (x > 0 && area[index - 1] === 1) ||
      (x < width - 1 && area[index + 1] === 1);
    if (!beside) continue;
    // Destination-over an opaque colour: Co = Cb·αb + Cs·(1 − αb), αo = 1 (W3C Compositing and Blending Level 1, clause 9.1).
    const alpha = (rgba[at + 3] as number) / 255;
    for (let channel = 0; channel < 3; channel++)
      rgba[at + channel] = Math.round((rgba[at + channel] as number) * alpha + (channels[channel] as number) * (1 - alpha));
    rgba[at + 3] = 255;
  }
}
