/*
 * Pixels of four bytes and the few colours of a palette. This is AssemblyScript: `npm run simd` compiles it into
 * `src/core/raster/palettesCode.ts`, and a test holds that to be what this file says. What it is for stands in
 * `src/core/raster/compiledPalettes.ts`. A colour is 0xRRGGBB; pixels are R G B A or B G R A, and clear where the fourth byte is 0.
 */

// @ts-ignore: a decorator of AssemblyScript
@inline
function colourOf(word: u32, isBgra: bool): u32 {
  return isBgra ? word & 0xffffff : ((word & 0xff) << 16) | (word & 0xff00) | ((word >> 16) & 0xff);
}

/** Spreads neighbouring colours over so many bits. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function spread(colour: u32, bits: u32): u32 {
  return (colour * 0x9e3779b1) >> (32 - bits);
}

/** Twice as many slots as there are pixels at once, so that one is always free. */
const SLOT_BITS: u32 = 15;

/**
 * How often each colour is among at most 16,384 pixels that are not clear: to `list` go pairs of 4-byte numbers, a colour and how often,
 * in the order they are first seen. Gives how many pairs. `slots` are 32,768 numbers of 4 bytes, all 0 before and after.
 */
export function countColours(pixels: usize, bytes: usize, isBgra: bool, slots: usize, list: usize): i32 {
  let pairs: u32 = 0;
  for (const end = pixels + bytes; pixels < end; ) {
    const word = load<u32>(pixels);
    const start = pixels;
    do pixels += 4;
    while (pixels < end && load<u32>(pixels) == word);
    if (word >> 24 == 0) continue;
    const colour = colourOf(word, isBgra);
    let slot = spread(colour, SLOT_BITS);
    let place: u32;
    // A slot holds the number of a pair, from 1.
    while ((place = load<u32>(slots + ((<usize>slot) << 2))) != 0 && load<u32>(list + (<usize>(place - 1) << 3)) != colour)
      slot = (slot + 1) & ((1 << SLOT_BITS) - 1);
    if (place == 0) {
      store<u32>(list + ((<usize>pairs) << 3), colour);
      store<u32>(list + ((<usize>pairs) << 3), 0, 4);
      pairs++;
      place = pairs;
      store<u32>(slots + ((<usize>slot) << 2), place);
    }
    const pair = list + (<usize>(place - 1) << 3);
    store<u32>(pair, load<u32>(pair, 4) + <u32>((pixels - start) >> 2), 4);
  }
  memory.fill(slots, 0, 4 << SLOT_BITS);
  return pairs;
}

/** The number of the colour nearest to one, by the sum of the squares of the differences; the first where several are as near. */
function nearest(colour: u32, palette: usize, colours: i32): i32 {
  const red = i32x4.splat((colour >> 16) & 255);
  const green = i32x4.splat((colour >> 8) & 255);
  const blue = i32x4.splat(colour & 255);
  const partBytes = (<usize>colours) << 2;
  let least = i32x4.splat(i32.MAX_VALUE);
  let best = i32x4.splat(0);
  for (let index = 0; index < colours; index += 4) {
    const at = palette + ((<usize>index) << 2);
    const byRed = i32x4.sub(v128.load(at), red);
    const byGreen = i32x4.sub(v128.load(at + partBytes), green);
    const byBlue = i32x4.sub(v128.load(at + partBytes * 2), blue);
    const apart = i32x4.add(i32x4.add(i32x4.mul(byRed, byRed), i32x4.mul(byGreen, byGreen)), i32x4.mul(byBlue, byBlue));
    const isNearer = i32x4.lt_s(apart, least);
    least = v128.bitselect(apart, least, isNearer);
    best = v128.bitselect(i32x4.splat(index), best, isNearer);
  }
  let found = i32x4.extract_lane(best, 0);
  let apart = i32x4.extract_lane(least, 0);
  for (let lane = 1; lane < 4; lane++) {
    best = i8x16.shuffle(best, best, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3);
    least = i8x16.shuffle(least, least, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3);
    const other = i32x4.extract_lane(best, 0) + lane;
    const otherApart = i32x4.extract_lane(least, 0);
    if (otherApart > apart || (otherApart == apart && other > found)) continue;
    found = other;
    apart = otherApart;
  }
  return found;
}

/** As many colours are remembered with what is nearest to them. */
const KNOWN_BITS: u32 = 16;

/**
 * The nearest of a palette for every pixel. `palette` holds `colours` reds, as many greens and as many blues, 4 bytes each, and their
 * number can be divided by 4. To `indices` goes a byte a pixel, `clear` where it is clear; over the pixels go the 4 bytes that lie at
 * that place of `words`. `known` are 65,536 colours of 4 bytes, -1 at first, and after them a byte for each: what was found before.
 */
export function nearestOfAll(
  pixels: usize,
  bytes: usize,
  isBgra: bool,
  palette: usize,
  colours: i32,
  clear: i32,
  words: usize,
  known: usize,
  indices: usize,
): void {
  const found = known + (4 << KNOWN_BITS);
  for (const end = pixels + bytes; pixels < end; ) {
    const word = load<u32>(pixels);
    let index = clear;
    if (word >> 24 != 0) {
      const colour = colourOf(word, isBgra);
      const slot = spread(colour, KNOWN_BITS);
      if (load<u32>(known + ((<usize>slot) << 2)) == colour) index = load<u8>(found + slot);
      else {
        index = nearest(colour, palette, colours);
        store<u32>(known + ((<usize>slot) << 2), colour);
        store<u8>(found + slot, <u8>index);
      }
    }
    const seen = load<u32>(words + ((<usize>index) << 2));
    do {
      store<u32>(pixels, seen);
      store<u8>(indices++, <u8>index);
      pixels += 4;
    } while (pixels < end && load<u32>(pixels) == word);
  }
}
