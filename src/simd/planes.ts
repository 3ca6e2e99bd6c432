/*
 * Pixels brought to planes, and planes brought down to signatures, sixteen bytes at once. This is AssemblyScript: `npm run simd`
 * compiles it into `src/core/raster/planesCode.ts`, and a test holds that to be what this file says. The formulas stand in
 * `src/core/raster/yuv.ts`, what a signature is in `src/core/raster/signature.ts`; every number here is the whole number they give.
 */

/** Each of four pixels by the weights of its first three bytes, on top of `base`. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function weigh(first: v128, second: v128, third: v128, w0: i32, w1: i32, w2: i32, base: i32): v128 {
  const two = i32x4.add(i32x4.mul(first, i32x4.splat(w0)), i32x4.mul(second, i32x4.splat(w1)));
  return i32x4.add(i32x4.add(two, i32x4.mul(third, i32x4.splat(w2))), i32x4.splat(base));
}

/** Byte `shift` / 8 of each of four pixels. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function byteOf(pixels: v128, shift: i32): v128 {
  return v128.and(i32x4.shr_u(pixels, shift), i32x4.splat(255));
}

/** Four whole numbers, none above 255, as four bytes. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function storeFour(to: usize, numbers: v128): void {
  const narrow = i16x8.narrow_i32x4_s(numbers, numbers);
  v128.store32_lane(to, i8x16.narrow_i16x8_u(narrow, narrow), 0);
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function lumaOf(pixels: v128, y0: i32, y1: i32, y2: i32, yBase: i32): v128 {
  return i32x4.shr_u(weigh(byteOf(pixels, 0), byteOf(pixels, 8), byteOf(pixels, 16), y0, y1, y2, yBase), 16);
}

/** A byte of eight pixels of one line and the eight below, summed by blocks of 2 × 2. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function quads(upper: v128, upperNext: v128, lower: v128, lowerNext: v128, shift: i32): v128 {
  const left = i32x4.add(byteOf(upper, shift), byteOf(lower, shift));
  const right = i32x4.add(byteOf(upperNext, shift), byteOf(lowerNext, shift));
  return i32x4.add(v128.shuffle<i32>(left, right, 0, 2, 4, 6), v128.shuffle<i32>(left, right, 1, 3, 5, 7));
}

/** Pixels of four bytes, lines without a gap, as a plane of Y and, at half the size, of U and V, lines without a gap. Sides are even. */
export function planes(
  pixels: usize,
  width: i32,
  height: i32,
  toY: usize,
  toU: usize,
  toV: usize,
  y0: i32,
  y1: i32,
  y2: i32,
  yBase: i32,
  u0: i32,
  u1: i32,
  u2: i32,
  v0: i32,
  v1: i32,
  v2: i32,
  quadBase: i32,
): void {
  const lineBytes = (<usize>width) << 2;
  // Drawings are mostly flat: what eight pixels and the eight below gave, all of one colour, is kept for the next that are the same.
  let flat = i32x4.splat(0);
  let isKnown = false;
  let flatY: v128 = i32x4.splat(0);
  let flatU: v128 = flatY;
  let flatV: v128 = flatY;
  for (let y = 0; y < height; y += 2) {
    let upper = pixels + (<usize>y) * lineBytes;
    let x = 0;
    for (; x + 8 <= width; x += 8, upper += 32, toY += 8, toU += 4, toV += 4) {
      const a = v128.load(upper);
      const b = v128.load(upper, 16);
      const c = v128.load(upper + lineBytes);
      const d = v128.load(upper + lineBytes, 16);
      const differs = v128.or(v128.or(v128.xor(a, flat), v128.xor(b, flat)), v128.or(v128.xor(c, flat), v128.xor(d, flat)));
      if (!isKnown || v128.any_true(differs)) {
        const yA = i16x8.narrow_i32x4_s(lumaOf(a, y0, y1, y2, yBase), lumaOf(b, y0, y1, y2, yBase));
        const yC = i16x8.narrow_i32x4_s(lumaOf(c, y0, y1, y2, yBase), lumaOf(d, y0, y1, y2, yBase));
        const bothY = i8x16.narrow_i16x8_u(yA, yC);
        const first = quads(a, b, c, d, 0);
        const second = quads(a, b, c, d, 8);
        const third = quads(a, b, c, d, 16);
        const fourU = i32x4.shr_s(weigh(first, second, third, u0, u1, u2, quadBase), 18);
        const fourV = i32x4.shr_s(weigh(first, second, third, v0, v1, v2, quadBase), 18);
        v128.store64_lane(toY, bothY, 0);
        v128.store64_lane(toY + width, bothY, 1);
        storeFour(toU, fourU);
        storeFour(toV, fourV);
        const one = i32x4.splat(i32x4.extract_lane(a, 0));
        const many = v128.or(v128.or(v128.xor(a, one), v128.xor(b, one)), v128.or(v128.xor(c, one), v128.xor(d, one)));
        if (!v128.any_true(many)) {
          isKnown = true;
          flat = one;
          flatY = bothY;
          flatU = fourU;
          flatV = fourV;
        }
        continue;
      }
      v128.store64_lane(toY, flatY, 0);
      v128.store64_lane(toY + width, flatY, 1);
      storeFour(toU, flatU);
      storeFour(toV, flatV);
    }
    for (; x < width; x += 2, upper += 8, toY += 2, toU++, toV++) {
      let first = 0;
      let second = 0;
      let third = 0;
      for (let part = 0; part < 4; part++) {
        const pixel = load<u32>(upper + ((<usize>(part & 1)) << 2) + (part > 1 ? lineBytes : 0));
        const s0 = <i32>(pixel & 255);
        const s1 = <i32>((pixel >> 8) & 255);
        const s2 = <i32>((pixel >> 16) & 255);
        store<u8>(toY + (part & 1) + (part > 1 ? width : 0), (s0 * y0 + s1 * y1 + s2 * y2 + yBase) >> 16);
        first += s0;
        second += s1;
        third += s2;
      }
      store<u8>(toU, (first * u0 + second * u1 + third * u2 + quadBase) >> 18);
      store<u8>(toV, (first * v0 + second * v1 + third * v2 + quadBase) >> 18);
    }
    toY += width;
  }
}

/** Every other byte of eight, as numbers of 16 bits. */
const EVERY_OTHER: u64 = 0x00ff00ff00ff00ff;

/** The mean of one block, half up: eight samples of a line at once. Reads up to 7 bytes past its end; at most 128 samples a side. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function meanOfBlock(from: usize, stride: i32, across: i32, lines: i32): u32 {
  let sum: u32 = 0;
  for (let left = 0; left < across; left += 8) {
    const samples = min(8, across - left);
    const mask: u64 = samples === 8 ? 0xffffffffffffffff : ((<u64>1) << (<u64>(8 * samples))) - 1;
    let sums: u64 = 0;
    let at = from + left;
    for (let line = 0; line < lines; line++, at += stride) {
      const eight = load<u64>(at) & mask;
      sums += (eight & EVERY_OTHER) + ((eight >> 8) & EVERY_OTHER);
    }
    sum += <u32>(sums & 0xffff) + <u32>((sums >> 16) & 0xffff) + <u32>((sums >> 32) & 0xffff) + <u32>(sums >> 48);
  }
  const samples: u32 = lines * across;
  return (sum + (samples >> 1)) / samples;
}

/**
 * Means of square blocks of a plane, half up, one after another; those at the right and lower edge have as many samples as there are.
 * Sides of 2, 4, 8 and 16 are quick.
 */
export function blockMeans(from: usize, stride: i32, width: i32, height: i32, side: i32, to: usize): void {
  const shift = 2 * ctz(side);
  const half = <u32>((side * side) >> 1);
  const isFast = side === 2 || side === 4 || side === 8 || side === 16;
  const together = 16 / side;
  for (let top = 0; top < height; top += side) {
    const lines = min(side, height - top);
    let at = from + (<usize>top) * stride;
    let x = 0;
    // Sums of two samples lie in 16 bits: 16 lines of them are at most 8160.
    if (isFast && lines === side)
      for (; x + 16 <= width; x += 16, at += 16, to += together) {
        let pairs = i16x8.extadd_pairwise_i8x16_u(v128.load(at));
        let line = at + stride;
        for (let rest = 1; rest < side; rest++, line += stride)
          pairs = i16x8.add(pairs, i16x8.extadd_pairwise_i8x16_u(v128.load(line)));
        if (side === 2) {
          const means = i16x8.shr_u(i16x8.add(pairs, i16x8.splat(2)), 2);
          v128.store64_lane(to, i8x16.narrow_i16x8_u(means, means), 0);
          continue;
        }
        let sums = i32x4.extadd_pairwise_i16x8_u(pairs);
        if (side >= 8) sums = i32x4.add(sums, v128.shuffle<i32>(sums, sums, 1, 0, 3, 2));
        if (side === 16) sums = i32x4.add(sums, v128.shuffle<i32>(sums, sums, 2, 3, 0, 1));
        const means = i32x4.shr_u(i32x4.add(sums, i32x4.splat(half)), shift);
        store<u8>(to, i32x4.extract_lane(means, 0));
        if (side === 8) store<u8>(to + 1, i32x4.extract_lane(means, 2));
        if (side === 4) storeFour(to, means);
      }
    for (; x < width; x += side, at += side, to++) store<u8>(to, meanOfBlock(at, stride, min(side, width - x), lines));
  }
}

/**
 * The means of a plane's samples in each of `across` × `down` cells of its size, by area, half up, row after row. Samples that lie in
 * two cells count for each by their part: along a side of `width` samples and `across` cells a sample is `across` parts long and a cell
 * `width`. `room` holds four bytes for each sample of a line and 64 more. Sides are at most 2048, so that sums stay below 2^32.
 */
export function areaMeans(from: usize, width: i32, height: i32, across: i32, down: i32, room: usize, to: usize): void {
  const whole = <u32>(width * height);
  let top = from;
  let topParts = down;
  for (let row = 0; row < down; row++) {
    let line = top;
    let lineParts = topParts;
    for (let x = 0; x < width; x += 16) {
      line = top;
      lineParts = topParts;
      let first = i32x4.splat(0);
      let second = i32x4.splat(0);
      let third = i32x4.splat(0);
      let fourth = i32x4.splat(0);
      for (let left = height; left > 0; ) {
        const parts = min(left, lineParts);
        const samples = v128.load(line + x);
        const weight = i16x8.splat(<i16>parts);
        const low = i16x8.extend_low_i8x16_u(samples);
        const high = i16x8.extend_high_i8x16_u(samples);
        first = i32x4.add(first, i32x4.extmul_low_i16x8_u(low, weight));
        second = i32x4.add(second, i32x4.extmul_high_i16x8_u(low, weight));
        third = i32x4.add(third, i32x4.extmul_low_i16x8_u(high, weight));
        fourth = i32x4.add(fourth, i32x4.extmul_high_i16x8_u(high, weight));
        left -= parts;
        lineParts -= parts;
        if (lineParts !== 0) continue;
        lineParts = down;
        line += width;
      }
      const at = room + ((<usize>x) << 2);
      v128.store(at, first);
      v128.store(at, second, 16);
      v128.store(at, third, 32);
      v128.store(at, fourth, 48);
    }
    top = line;
    topParts = lineParts;
    let sample = room;
    let sampleParts = across;
    for (let cell = 0; cell < across; cell++, to++) {
      let sum: u32 = 0;
      for (let left = width; left > 0; ) {
        const parts = min(left, sampleParts);
        sum += load<u32>(sample) * <u32>parts;
        left -= parts;
        sampleParts -= parts;
        if (sampleParts !== 0) continue;
        sampleParts = across;
        sample += 4;
      }
      store<u8>(to, (sum + (whole >> 1)) / whole);
    }
  }
}

/** The sum of how far bytes lie apart, each from the one at its place. `length` is at most 2^23, so that the sum stays below 2^31. */
export function sumApart(a: usize, b: usize, length: i32): i32 {
  let sums = i32x4.splat(0);
  let i = 0;
  for (; i + 16 <= length; i += 16, a += 16, b += 16) {
    const one = v128.load(a);
    const other = v128.load(b);
    const apart = v128.or(i8x16.sub_sat_u(one, other), i8x16.sub_sat_u(other, one));
    sums = i32x4.add(sums, i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(apart)));
  }
  let sum =
    i32x4.extract_lane(sums, 0) + i32x4.extract_lane(sums, 1) + i32x4.extract_lane(sums, 2) + i32x4.extract_lane(sums, 3);
  for (; i < length; i++, a++, b++) sum += abs(<i32>load<u8>(a) - <i32>load<u8>(b));
  return sum;
}

/** Eight bytes, each by its pixel's alpha, laid on white. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function onPaper(bytes: v128, alphas: v128): v128 {
  // c · a / 255 to the nearest: with t = c · a + 128, (t + (t >> 8)) >> 8. White comes through by 255 − a.
  const t = i16x8.add(i16x8.mul(bytes, alphas), i16x8.splat(128));
  const own = i16x8.shr_u(i16x8.add(t, i16x8.shr_u(t, 8)), 8);
  return i16x8.add(own, i16x8.sub(i16x8.splat(255), alphas));
}

/** Sums of the bytes that lie below each other in some lines, of 16 bits each; sixteen at once, past the end too. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function sumLines(from: usize, lineBytes: i32, lines: i32, hasAlpha: bool, sums: usize): void {
  for (let i = 0; i < lineBytes; i += 16, from += 16, sums += 32) {
    let lows = i16x8.splat(0);
    let highs = lows;
    let at = from;
    for (let line = 0; line < lines; line++, at += lineBytes) {
      const all = v128.load(at);
      let low = i16x8.extend_low_i8x16_u(all);
      let high = i16x8.extend_high_i8x16_u(all);
      if (hasAlpha) {
        const alphas = v128.shuffle<u8>(all, all, 3, 3, 3, 3, 7, 7, 7, 7, 11, 11, 11, 11, 15, 15, 15, 15);
        low = onPaper(low, i16x8.extend_low_i8x16_u(alphas));
        high = onPaper(high, i16x8.extend_high_i8x16_u(alphas));
      }
      lows = i16x8.add(lows, low);
      highs = i16x8.add(highs, high);
    }
    v128.store(sums, lows);
    v128.store(sums, highs, 16);
  }
}

/** Sums of red, green and blue, as Y, Cb and Cr: what each weighs of their mean by ITU-R BT.709 in limited range. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function weightsOf(red: f32, green: f32, blue: f32, part: f32): v128 {
  const luma = <f32>0.2126 * red + <f32>0.7152 * green + <f32>0.0722 * blue;
  const y = <f32>(219.0 / 255.0);
  const cb = <f32>(224.0 / 255.0 / 1.8556);
  const cr = <f32>(224.0 / 255.0 / 1.5748);
  return f32x4.mul(f32x4(y * luma, cb * (blue - luma), cr * (red - luma), 0), f32x4.splat(part));
}

/**
 * Square blocks of pixels of `bytes` bytes, three opaque or four with straight alpha laid on white, as three planes of their means: Y,
 * Cb and Cr, to the nearest. Those at the right and lower edge have as many pixels as there are; `side` is at most 64. `room` holds two
 * bytes for each byte of a line and 32 more; planes lie `planeBytes` behind each other.
 */
export function blocksOnPaper(
  pixels: usize,
  width: i32,
  height: i32,
  bytes: i32,
  side: i32,
  room: usize,
  to: usize,
  planeBytes: i32,
): void {
  const lineBytes = width * bytes;
  const bases = f32x4(16.5, 128.5, 128.5, 0);
  let pixelsInBlock = 0;
  let ofRed = bases;
  let ofGreen = bases;
  let ofBlue = bases;
  for (let top = 0; top < height; top += side) {
    const lines = min(side, height - top);
    if (bytes === 4) sumLines(pixels, lineBytes, lines, true, room);
    else sumLines(pixels, lineBytes, lines, false, room);
    pixels += lines * lineBytes;
    let sums = room;
    for (let left = 0; left < width; left += side, to++) {
      const across = min(side, width - left);
      let rgb = i32x4.splat(0);
      let x = 0;
      if (bytes === 3)
        for (; x + 4 <= across; x += 4, sums += 24) {
          const first = v128.load(sums);
          const last = v128.load64_zero(sums, 16);
          const two = i16x8.add(first, v128.shuffle<u16>(first, first, 3, 4, 5, 5, 5, 5, 5, 5));
          const third = v128.shuffle<u16>(first, last, 6, 7, 8, 8, 8, 8, 8, 8);
          const four = i16x8.add(i16x8.add(two, third), v128.shuffle<u16>(last, last, 1, 2, 3, 3, 3, 3, 3, 3));
          rgb = i32x4.add(rgb, i32x4.extend_low_i16x8_u(four));
        }
      for (; x < across; x++, sums += bytes << 1)
        rgb = i32x4.add(rgb, i32x4(load<u16>(sums), load<u16>(sums, 2), load<u16>(sums, 4), 0));
      if (across * lines !== pixelsInBlock) {
        pixelsInBlock = across * lines;
        const part = <f32>1 / <f32>pixelsInBlock;
        ofRed = weightsOf(1, 0, 0, part);
        ofGreen = weightsOf(0, 1, 0, part);
        ofBlue = weightsOf(0, 0, 1, part);
      }
      const all = f32x4.convert_i32x4_s(rgb);
      const red = f32x4.mul(v128.shuffle<f32>(all, all, 0, 0, 0, 0), ofRed);
      const green = f32x4.mul(v128.shuffle<f32>(all, all, 1, 1, 1, 1), ofGreen);
      const blue = f32x4.mul(v128.shuffle<f32>(all, all, 2, 2, 2, 2), ofBlue);
      const means = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(bases, red), f32x4.add(green, blue)));
      store<u8>(to, i32x4.extract_lane(means, 0));
      store<u8>(to + planeBytes, i32x4.extract_lane(means, 1));
      store<u8>(to + 2 * planeBytes, i32x4.extract_lane(means, 2));
    }
  }
}
