/*
 * What the checks want to know of a picture's pixels (RGBA, straight, lines without a gap), four pixels at once. This is
 * AssemblyScript: `npm run simd` compiles it into `src/core/analysis/measuresCode.ts`, and a test holds that to be what this file
 * says. What is measured and why stands in `src/core/analysis/measure.ts` and `src/core/analysis/light.ts`.
 */

// @ts-ignore: a decorator of AssemblyScript
@inline
function sumOf(four: v128): u32 {
  return i32x4.extract_lane(four, 0) + i32x4.extract_lane(four, 1) + i32x4.extract_lane(four, 2) + i32x4.extract_lane(four, 3);
}

/** Four pixels from `at`, or as many as are left: what is past them is clear. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function pixelsAt(at: usize, left: i32): v128 {
  if (left >= 4) return v128.load(at);
  let few = v128.load32_zero(at);
  if (left > 1) few = v128.load32_lane(at + 4, few, 1);
  if (left > 2) few = v128.load32_lane(at + 8, few, 2);
  return few;
}

/**
 * Measures a picture. To `toBlocks` go, for each block of `side` × `side`, row by row, the sums of red, green and blue each times alpha,
 * and of alpha (4 bytes each). To `to` go ten numbers of 8 bytes: the sum of alpha, of alpha times (2x + 1), of alpha times (2y + 1);
 * the box of what is not clear (left, top, right, bottom; its right is 0 where all is clear); whether a pixel is at least half opaque,
 * and then the least and the greatest red, green or blue of those that are. `side` is at most 64.
 */
export function measure(pixels: usize, width: i32, height: i32, side: i32, toBlocks: usize, to: usize): void {
  const lineBytes = (<usize>width) << 2;
  const steps = i32x4(1, 3, 5, 7);
  let ink: f64 = 0;
  let inkX: f64 = 0;
  let inkY: f64 = 0;
  let left = width;
  let top = height;
  let right = 0;
  let bottom = 0;
  let halves = i32x4.splat(0);
  let least = i32x4.splat(-1);
  let most = i32x4.splat(0);
  for (let blockTop = 0; blockTop < height; blockTop += side) {
    const blockBottom = min(height, blockTop + side);
    for (let blockLeft = 0; blockLeft < width; blockLeft += side, toBlocks += 16) {
      const blockRight = min(width, blockLeft + side);
      const isAtEdge = blockLeft < left || blockTop < top || blockRight > right || blockBottom > bottom;
      let red = i32x4.splat(0);
      let green = red;
      let blue = red;
      let alphas = red;
      let across = red;
      let down = red;
      for (let y = blockTop; y < blockBottom; y++) {
        const line = pixels + (<usize>y) * lineBytes;
        const downHere = i32x4.splat(2 * (y - blockTop) + 1);
        for (let x = blockLeft; x < blockRight; x += 4) {
          const four = pixelsAt(line + ((<usize>x) << 2), blockRight - x);
          const alpha = i32x4.shr_u(four, 24);
          if (!v128.any_true(alpha)) continue;
          alphas = i32x4.add(alphas, alpha);
          red = i32x4.add(red, i32x4.mul(v128.and(four, i32x4.splat(255)), alpha));
          green = i32x4.add(green, i32x4.mul(v128.and(i32x4.shr_u(four, 8), i32x4.splat(255)), alpha));
          blue = i32x4.add(blue, i32x4.mul(v128.and(i32x4.shr_u(four, 16), i32x4.splat(255)), alpha));
          across = i32x4.add(across, i32x4.mul(alpha, i32x4.add(steps, i32x4.splat(2 * (x - blockLeft)))));
          down = i32x4.add(down, i32x4.mul(alpha, downHere));
          // The highest bit of a pixel is that of its alpha: spread, it takes the pixels that are at least half opaque.
          const half = i32x4.shr_s(four, 31);
          halves = v128.or(halves, half);
          most = i8x16.max_u(most, v128.and(v128.and(four, i32x4.splat(0x00ffffff)), half));
          least = i8x16.min_u(least, v128.or(v128.or(four, i32x4.splat(0xff000000)), v128.not(half)));
          if (!isAtEdge) continue;
          const drawn = i32x4.bitmask(i32x4.ne(alpha, i32x4.splat(0)));
          left = min(left, x + ctz(drawn));
          right = max(right, x + 32 - clz(drawn));
          top = min(top, y);
          bottom = max(bottom, y + 1);
        }
      }
      const inkHere = <f64>sumOf(alphas);
      ink += inkHere;
      inkX += <f64>sumOf(across) + inkHere * (2 * blockLeft);
      inkY += <f64>sumOf(down) + inkHere * (2 * blockTop);
      store<u32>(toBlocks, sumOf(red));
      store<u32>(toBlocks, sumOf(green), 4);
      store<u32>(toBlocks, sumOf(blue), 8);
      store<u32>(toBlocks, sumOf(alphas), 12);
    }
  }
  let lowest: u32 = 255;
  let highest: u32 = 0;
  for (let byte = 0; byte < 16; byte++) {
    store<v128>(to, least);
    lowest = min(lowest, <u32>load<u8>(to + byte));
    store<v128>(to, most);
    highest = max(highest, <u32>load<u8>(to + byte));
  }
  store<f64>(to, ink);
  store<f64>(to, inkX, 8);
  store<f64>(to, inkY, 16);
  store<f64>(to, left, 24);
  store<f64>(to, top, 32);
  store<f64>(to, right, 40);
  store<f64>(to, bottom, 48);
  store<f64>(to, v128.any_true(halves) ? 1 : 0, 56);
  store<f64>(to, lowest, 64);
  store<f64>(to, highest, 72);
}

/** Whether a cell is of one colour. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function isFlat(at: usize, lineBytes: usize, across: i32, lines: i32, word: u32): bool {
  const words = i32x4.splat(word);
  for (let line = 0; line < lines; line++, at += lineBytes) {
    let x = 0;
    for (; x + 4 <= across; x += 4) if (v128.any_true(v128.xor(v128.load(at + ((<usize>x) << 2)), words))) return false;
    for (; x < across; x++) if (load<u32>(at + ((<usize>x) << 2)) !== word) return false;
  }
  return true;
}

/** The 8-bit value whose linear light is nearest, in coded steps: sought among the 255 limits between values. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function nearestCode(between: usize, light: f64): u32 {
  let low: u32 = 0;
  let high: u32 = 255;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (light < load<f64>(between + ((<usize>middle) << 3))) high = middle;
    else low = middle + 1;
  }
  return low;
}

/**
 * The light of a picture by cells of `cellPx`, of the cells from (left, top) to (right, bottom), ends excluded; `columns` are those of
 * the whole grid. `linear` are 256 numbers of 4 bytes, `between` 255 of 8. To `toSpans` go pairs of the first cell and how many follow,
 * to `toValues` 5 bytes for each cell that holds anything. Gives how many pairs there are.
 */
export function light(
  pixels: usize,
  width: i32,
  height: i32,
  cellPx: i32,
  columns: i32,
  left: i32,
  top: i32,
  right: i32,
  bottom: i32,
  linear: usize,
  between: usize,
  toSpans: usize,
  toValues: usize,
): i32 {
  const lineBytes = (<usize>width) << 2;
  let spans = 0;
  let span = toSpans - 8;
  let lastWord: u32 = 0;
  let lastAlpha: f64 = 0;
  let lastRed: f64 = 0;
  let lastGreen: f64 = 0;
  let lastBlue: f64 = 0;
  for (let row = top; row < bottom; row++) {
    const lines = min(height, (row + 1) * cellPx) - row * cellPx;
    const line = pixels + (<usize>(row * cellPx)) * lineBytes;
    let isOpen = false;
    for (let column = left; column < right; column++) {
      const across = min(width, (column + 1) * cellPx) - column * cellPx;
      const corner = line + ((<usize>(column * cellPx)) << 2);
      const word = load<u32>(corner);
      const flat = isFlat(corner, lineBytes, across, lines, word);
      let red: f64 = 0;
      let green: f64 = 0;
      let blue: f64 = 0;
      let alpha: f64 = 0;
      let held = 0;
      if (flat) held = word >> 24 === 0 ? 0 : 1;
      else
        for (let y = 0; y < lines; y++) {
          let at = corner + (<usize>y) * lineBytes;
          for (let x = 0; x < across; x++, at += 4) {
            const pixel = load<u32>(at);
            if (pixel >> 24 === 0) continue;
            if (pixel !== lastWord) {
              lastWord = pixel;
              lastAlpha = <f64>(pixel >> 24);
              lastRed = <f64>load<f32>(linear + ((<usize>(pixel & 255)) << 2)) * lastAlpha;
              lastGreen = <f64>load<f32>(linear + ((<usize>((pixel >> 8) & 255)) << 2)) * lastAlpha;
              lastBlue = <f64>load<f32>(linear + ((<usize>((pixel >> 16) & 255)) << 2)) * lastAlpha;
            }
            red += lastRed;
            green += lastGreen;
            blue += lastBlue;
            alpha += lastAlpha;
            held++;
          }
        }
      if (held === 0) {
        isOpen = false;
        continue;
      }
      if (!isOpen) {
        isOpen = true;
        spans++;
        span += 8;
        store<u32>(span, row * columns + column);
        store<u32>(span, 0, 4);
      }
      store<u32>(span, load<u32>(span, 4) + 1, 4);
      if (flat) {
        store<u32>(toValues, word | 0xff000000);
        store<u8>(toValues, word >> 24, 4);
      } else {
        store<u8>(toValues, nearestCode(between, red / alpha));
        store<u8>(toValues, nearestCode(between, green / alpha), 1);
        store<u8>(toValues, nearestCode(between, blue / alpha), 2);
        store<u8>(toValues, <u8>max<f64>(1, Math.floor((<f64>held / <f64>(lines * across)) * 255 + 0.5)), 3);
        store<u8>(toValues, <u8>max<f64>(1, Math.floor(alpha / <f64>held + 0.5)), 4);
      }
      toValues += 5;
    }
  }
  return spans;
}
