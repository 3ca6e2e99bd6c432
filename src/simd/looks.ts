/*
 * The nearest of many looks, sixteen cells at once. This is AssemblyScript: `npm run simd` compiles it into
 * `src/core/outside/looksCode.ts`, and a test holds that to be what this file says. Which looks are of one picture, and why none is
 * missed by what is passed over, stands in `src/core/outside/look.ts` and `samePictures.ts`.
 *
 * Of each look there is a head: four sums of 4 bytes, then 32 cells that are looked at first. Heads lie close together, since most
 * looks are passed over by them. The looks themselves are filled up with zeros to sixteens.
 */

const PROBES_AT: usize = 16;
const HEAD_BYTES: usize = 48;

// @ts-ignore: a decorator of AssemblyScript
@inline
function apart(a: usize, b: usize): v128 {
  const one = v128.load(a);
  const other = v128.load(b);
  return v128.or(i8x16.sub_sat_u(one, other), i8x16.sub_sat_u(other, one));
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function sumOf(bytes: v128): i32 {
  const sums = i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(bytes));
  const halves = i32x4.add(sums, v128.shuffle<i32>(sums, sums, 2, 3, 0, 1));
  return i32x4.extract_lane(halves, 0) + i32x4.extract_lane(halves, 1);
}

/** The four sums of a look, each of its cells times a sign; `signs` are four rows as long as a look, of −1, 0 and 1. */
export function sums(look: usize, signs: usize, lookBytes: i32, to: usize): void {
  for (let number = 0; number < 4; number++, to += 4) {
    let four = i32x4.splat(0);
    for (let at: usize = 0; at < <usize>lookBytes; at += 16, signs += 16) {
      const cells = v128.load(look + at);
      const own = v128.load(signs);
      const low = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(cells), i16x8.extend_low_i8x16_s(own));
      const high = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(cells), i16x8.extend_high_i8x16_s(own));
      four = i32x4.add(four, i32x4.add(low, high));
    }
    const halves = i32x4.add(four, v128.shuffle<i32>(four, four, 2, 3, 0, 1));
    store<i32>(to, i32x4.extract_lane(halves, 0) + i32x4.extract_lane(halves, 1));
  }
}

/**
 * The number of the look nearest to the one at `look` with its head at `head`, of those that `order` names from place `from` to before
 * `to`: the first with the least sum of what its cells are apart. −1 where none has a sum within `mostSum`, every cell below `most` apart, and
 * no more than `mostSome` cells `some` apart or more.
 */
export function nearest(
  head: usize,
  look: usize,
  heads: usize,
  looks: usize,
  lookBytes: i32,
  order: usize,
  from: i32,
  to: i32,
  mostSum: i32,
  most: i32,
  some: i32,
  mostSome: i32,
): i32 {
  const second = load<i32>(head, 4);
  const third = load<i32>(head, 8);
  const fourth = load<i32>(head, 12);
  const mosts = i8x16.splat(<i8>most);
  const somes = i8x16.splat(<i8>some);
  let found = -1;
  let least = mostSum + 1;
  for (let place = from; place < to; place++) {
    const id = load<i32>(order + ((<usize>place) << 2));
    const known = heads + (<usize>id) * HEAD_BYTES;
    if (abs(load<i32>(known, 4) - second) > mostSum) continue;
    if (abs(load<i32>(known, 8) - third) > mostSum) continue;
    if (abs(load<i32>(known, 12) - fourth) > mostSum) continue;
    const probed = v128.or(
      i8x16.ge_u(apart(head + PROBES_AT, known + PROBES_AT), mosts),
      i8x16.ge_u(apart(head + PROBES_AT + 16, known + PROBES_AT + 16), mosts),
    );
    if (v128.any_true(probed)) continue;
    let sum = 0;
    let cells = 0;
    const other = looks + (<usize>id) * (<usize>lookBytes);
    for (let at: usize = 0; at < <usize>lookBytes; at += 16) {
      const each = apart(look + at, other + at);
      if (!v128.any_true(each)) continue;
      if (v128.any_true(i8x16.ge_u(each, mosts))) {
        sum = least;
        break;
      }
      cells += popcnt(i8x16.bitmask(i8x16.ge_u(each, somes)));
      sum += sumOf(each);
      if (sum >= least || cells > mostSome) {
        sum = least;
        break;
      }
    }
    if (sum >= least) continue;
    found = id;
    least = sum;
    if (sum === 0) break;
  }
  return found;
}
