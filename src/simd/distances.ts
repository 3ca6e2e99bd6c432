/*
 * How far pixels are from walls, sixteen at once, a byte each. This is AssemblyScript: `npm run simd` compiles it into
 * `src/core/raster/distancesCode.ts`, and a test holds that to be what this file says. What it is for stands in
 * `src/core/raster/compiledDistances.ts`, and how rows lie: `stride` bytes each, with one byte before the first pixel and at least
 * one past the last of sixteen, and a row above the first and below the last.
 */

const FAR: u8 = 250;

/** The least of what is there and what comes from the left of it within these sixteen: each step adds 3. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function fromLeft(v: v128): v128 {
  const far = i8x16.splat(-1);
  v = i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(far, v, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24, 25, 26, 27, 28, 29, 30), i8x16.splat(3)));
  v = i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(far, v, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24, 25, 26, 27, 28, 29), i8x16.splat(6)));
  v = i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(far, v, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23, 24, 25, 26, 27), i8x16.splat(12)));
  return i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(far, v, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23), i8x16.splat(24)));
}

/** The same from the right. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function fromRight(v: v128): v128 {
  const far = i8x16.splat(-1);
  v = i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(v, far, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16), i8x16.splat(3)));
  v = i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(v, far, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17), i8x16.splat(6)));
  v = i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(v, far, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19), i8x16.splat(12)));
  return i8x16.min_u(v, i8x16.add_sat_u(i8x16.shuffle(v, far, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23), i8x16.splat(24)));
}

/** The least of what is there and what comes from the row beside it: 3 straight, 4 aslant. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function fromRow(v: v128, beside: usize): v128 {
  v = i8x16.min_u(v, i8x16.add_sat_u(v128.load(beside), i8x16.splat(3)));
  return i8x16.min_u(v, i8x16.add_sat_u(i8x16.min_u(v128.load(beside - 1), v128.load(beside + 1)), i8x16.splat(4)));
}

/**
 * Pixels are 1 where colour may come, and become three times their distance to the nearest that is not, `FAR` at most. Once down and
 * to the right, once up and to the left (Borgefors 1986). What is past a row's last pixel of sixteen counts as free and changes
 * nothing: a shortest way between two pixels of the page never needs to leave it.
 */
export function distances(at: usize, stride: usize, width: usize, height: i32): void {
  const far = i8x16.splat(FAR);
  const blocks = (width + 15) & ~15;
  const ones = i8x16.splat(1);
  memory.fill(at, FAR, stride);
  for (let y = 1; y <= height; y++) {
    const row = at + (<usize>y) * stride;
    store<u8>(row, FAR);
    let before = far;
    for (let x: usize = 1; x <= blocks; x += 16) {
      const here = row + x;
      let v = v128.and(i8x16.eq(v128.load(here), ones), far);
      v = fromLeft(fromRow(v, here - stride));
      v = i8x16.min_u(v, i8x16.add_sat_u(before, i8x16(3, 6, 9, 12, 15, 18, 21, 24, 27, 30, 33, 36, 39, 42, 45, 48)));
      v128.store(here, v);
      before = i8x16.splat(i8x16.extract_lane_s(v, 15));
    }
    memory.fill(row + 1 + blocks, FAR, stride - 1 - blocks);
  }
  memory.fill(at + (<usize>(height + 1)) * stride, FAR, stride);
  for (let y = height; y >= 1; y--) {
    const row = at + (<usize>y) * stride;
    let before = far;
    for (let x: usize = blocks - 15; ; x -= 16) {
      const here = row + x;
      let v = fromRight(fromRow(v128.load(here), here + stride));
      v = i8x16.min_u(v, i8x16.add_sat_u(before, i8x16(48, 45, 42, 39, 36, 33, 30, 27, 24, 21, 18, 15, 12, 9, 6, 3)));
      v128.store(here, v);
      before = i8x16.splat(i8x16.extract_lane_s(v, 0));
      if (x == 1) break;
    }
  }
}

/** What is more than `reach` becomes 1, all else 0. */
export function further(at: usize, bytes: usize, reach: i32): void {
  const most = i8x16.splat(<i8>reach);
  const ones = i8x16.splat(1);
  for (const end = at + bytes; at < end; at += 16) v128.store(at, v128.and(i8x16.gt_u(v128.load(at), most), ones));
}

/** 1 at `to` for pixels that are 1 with one that is 0 beside, above or below them; rows are read past their last pixel. */
export function edges(at: usize, stride: usize, width: usize, height: i32, to: usize): void {
  const none = i8x16.splat(0);
  const ones = i8x16.splat(1);
  for (let y = 1; y <= height; y++) {
    const row = at + (<usize>y) * stride + 1;
    for (let x: usize = 0; x < width; x += 16) {
      const here = row + x;
      const sides = v128.and(v128.load(here - 1), v128.load(here + 1));
      const all = v128.and(sides, v128.and(v128.load(here - stride), v128.load(here + stride)));
      v128.store(to + (here - at), v128.and(v128.and(i8x16.eq(all, none), v128.load(here)), ones));
    }
  }
}
