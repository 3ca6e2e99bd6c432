/*
 * The sums of a blur, four channels at once. This is AssemblyScript: `npm run simd` compiles it into
 * `src/core/finish/blurCode.ts`, and a test holds that to be what this file says. What is summed, and why, stands in
 * `src/core/finish/blur.ts`.
 *
 * Both functions take lines of pixels that follow each other, blur each by three boxes and write them turned over the
 * picture's diagonal: pixel p of line l comes to line p, pixel l. `row` is room for four lines with what lies outside them, 16
 * bytes a pixel. Sums are of 32 bits without a sign; whoever calls sees to it that 255 · scale · d1 · d2 · d3 stays below 2^32.
 */

// @ts-ignore: a decorator of AssemblyScript
@inline
function runBox(row: usize, pixels: i32, width: i32): i32 {
  const places = pixels - width + 1;
  let sum = i32x4.splat(0);
  let comes = row;
  for (let i = 1; i < width; i++, comes += 16) sum = i32x4.add(sum, v128.load(comes));
  let at = row;
  for (let i = 0; i < places; i++, at += 16, comes += 16) {
    sum = i32x4.add(sum, v128.load(comes));
    const goes = v128.load(at);
    v128.store(at, sum);
    sum = i32x4.sub(sum, goes);
  }
  return places;
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function runBoxes(row: usize, length: i32, d1: i32, d2: i32, d3: i32, reachLeft: i32, goesOn: bool): void {
  const padded = length + d1 + d2 + d3 - 3;
  const before = goesOn ? v128.load(row + ((<usize>reachLeft) << 4)) : i32x4.splat(0);
  const after = goesOn ? v128.load(row + ((<usize>(reachLeft + length - 1)) << 4)) : i32x4.splat(0);
  for (let i = 0; i < reachLeft; i++) v128.store(row + ((<usize>i) << 4), before);
  for (let i = reachLeft + length; i < padded; i++) v128.store(row + ((<usize>i) << 4), after);
  runBox(row, runBox(row, runBox(row, padded, d1), d2), d3);
}

/** Four sums times a factor, half up, as four whole numbers of 16 bits in the lower half. A float keeps a sum to 1 in 2^24. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function scaled(sums: v128, factor: v128): v128 {
  const numbers = f32x4.add(f32x4.mul(f32x4.convert_i32x4_u(sums), factor), f32x4.splat(0.5));
  const four = i32x4.trunc_sat_f32x4_u(numbers);
  return i16x8.narrow_i32x4_u(four, four);
}

/** So many lines are blurred before they are written, so that what is written beside each other is written together. */
const LINES: i32 = 4;

/** Lines of bytes to lines of 16 bits, `scale` times as large. */
export function rows(
  source: usize,
  target: usize,
  row: usize,
  lines: i32,
  length: i32,
  d1: i32,
  d2: i32,
  d3: i32,
  reachLeft: i32,
  goesOn: bool,
  scale: f64,
): void {
  const factor = f32x4.splat(<f32>(scale / (<f64>d1 * <f64>d2 * <f64>d3)));
  const step = (<usize>lines) << 3;
  const rowBytes = (<usize>(length + d1 + d2 + d3)) << 4;
  for (let first = 0; first < lines; first += LINES) {
    const count = min(LINES, lines - first);
    for (let part = 0; part < count; part++) {
      const from = source + (((<usize>(first + part)) * (<usize>length)) << 2);
      const own = row + (<usize>part) * rowBytes;
      for (let i = 0; i < length; i++) {
        const bytes = v128.load32_zero(from + ((<usize>i) << 2));
        v128.store(own + ((<usize>(reachLeft + i)) << 4), i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(bytes)));
      }
      runBoxes(own, length, d1, d2, d3, reachLeft, goesOn);
    }
    let to = target + ((<usize>first) << 3);
    for (let i = 0; i < length; i++, to += step) {
      for (let part = 0; part < count; part++)
        v128.store64_lane(to + ((<usize>part) << 3), scaled(v128.load(row + (<usize>part) * rowBytes + ((<usize>i) << 4)), factor), 0);
    }
  }
}

/** Lines of 16 bits, `scale` times as large, to lines of bytes. */
export function columns(
  source: usize,
  target: usize,
  row: usize,
  lines: i32,
  length: i32,
  d1: i32,
  d2: i32,
  d3: i32,
  reachLeft: i32,
  goesOn: bool,
  scale: f64,
): void {
  const factor = f32x4.splat(<f32>(1.0 / (scale * <f64>d1 * <f64>d2 * <f64>d3)));
  const step = (<usize>lines) << 2;
  const rowBytes = (<usize>(length + d1 + d2 + d3)) << 4;
  for (let first = 0; first < lines; first += LINES) {
    const count = min(LINES, lines - first);
    for (let part = 0; part < count; part++) {
      const from = source + (((<usize>(first + part)) * (<usize>length)) << 3);
      const own = row + (<usize>part) * rowBytes;
      for (let i = 0; i < length; i++) {
        const four = v128.load64_zero(from + ((<usize>i) << 3));
        v128.store(own + ((<usize>(reachLeft + i)) << 4), i32x4.extend_low_i16x8_u(four));
      }
      runBoxes(own, length, d1, d2, d3, reachLeft, goesOn);
    }
    let to = target + ((<usize>first) << 2);
    for (let i = 0; i < length; i++, to += step) {
      for (let part = 0; part < count; part++) {
        const four = scaled(v128.load(row + (<usize>part) * rowBytes + ((<usize>i) << 4)), factor);
        v128.store32_lane(to + ((<usize>part) << 2), i8x16.narrow_i16x8_u(four, four), 0);
      }
    }
  }
}
