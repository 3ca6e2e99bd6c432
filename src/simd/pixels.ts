/*
 * Pixels of four bytes, four at once: their bytes in another order, without the fourth, without what is hidden, and where two pictures differ. This is
 * AssemblyScript: `npm run simd` compiles it into `src/core/raster/pixelsCode.ts`, and a test holds that to be what this file says.
 * What it is for stands in `src/core/raster/compiledPixels.ts`. It reads and writes past the end by less than 16 bytes.
 */

/** The first and the third byte of each pixel change places. */
export function changePlaces(at: usize, bytes: usize): void {
  for (const end = at + bytes; at < end; at += 16) {
    const four = v128.load(at);
    v128.store(at, i8x16.shuffle(four, four, 2, 1, 0, 3, 6, 5, 4, 7, 10, 9, 8, 11, 14, 13, 12, 15));
  }
}

/** The first three bytes of each pixel, without a gap. */
export function withoutFourth(from: usize, bytes: usize, to: usize): void {
  for (const end = from + bytes; from < end; from += 16, to += 12) {
    const four = v128.load(from);
    v128.store(to, i8x16.shuffle(four, four, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 3, 7, 11, 15));
  }
}

/** Pixels whose fourth byte is 0 become 0 all over; 1 where one was not. What lies within 16 bytes past the end counts as well. */
export function clearHidden(at: usize, bytes: usize): i32 {
  const fourth = i32x4.splat(0xff000000);
  const none = i32x4.splat(0);
  let cleared = none;
  for (const end = at + bytes; at < end; at += 16) {
    const four = v128.load(at);
    const hidden = i32x4.eq(v128.and(four, fourth), none);
    cleared = v128.or(cleared, v128.and(four, hidden));
    v128.store(at, v128.andnot(four, hidden));
  }
  return i32(v128.any_true(cleared));
}

/** How many of `most` pixels are alike, from the left on. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function alikeFromLeft(a: usize, b: usize, most: i32): i32 {
  let x = 0;
  for (; x + 4 <= most; x += 4) {
    const at = (<usize>x) << 2;
    const differ = i32x4.bitmask(i32x4.ne(v128.load(a + at), v128.load(b + at)));
    if (differ) return x + ctz(differ);
  }
  while (x < most && load<u32>(a + ((<usize>x) << 2)) == load<u32>(b + ((<usize>x) << 2))) x++;
  return x;
}

/** The last pixel from `from` to before `end` that differs; none past `from` where none does. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function lastDifferent(a: usize, b: usize, from: i32, end: i32): i32 {
  let x = end;
  for (; x - 4 >= from; x -= 4) {
    const at = (<usize>(x - 4)) << 2;
    const differ = i32x4.bitmask(i32x4.ne(v128.load(a + at), v128.load(b + at)));
    if (differ) return x + 27 - clz(differ);
  }
  x--;
  while (x > from && load<u32>(a + ((<usize>x) << 2)) == load<u32>(b + ((<usize>x) << 2))) x--;
  return x;
}

/**
 * Widens the area that differs by lines of two pictures. At `area` lie four numbers of 4 bytes: the left and right column and the top and
 * bottom line that differ so far; the left is past the right where none does. `firstLine` is the number of the first of these lines.
 */
export function widenArea(a: usize, b: usize, width: i32, lines: i32, firstLine: i32, area: usize): void {
  const lineBytes = (<usize>width) << 2;
  let left = load<i32>(area);
  let right = load<i32>(area, 4);
  let top = load<i32>(area, 8);
  let bottom = load<i32>(area, 12);
  for (let line = 0; line < lines; line++, a += lineBytes, b += lineBytes) {
    const first = alikeFromLeft(a, b, width);
    if (first == width) continue;
    left = min(left, first);
    right = max(right, lastDifferent(a, b, max(right, first), width));
    top = min(top, firstLine + line);
    bottom = firstLine + line;
  }
  store<i32>(area, left);
  store<i32>(area, right, 4);
  store<i32>(area, top, 8);
  store<i32>(area, bottom, 12);
}
