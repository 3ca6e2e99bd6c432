import type { Rate } from '@/core/time/rate';

/*
 * A boundary on frame n at `from` stands at n·from.den/from.num seconds; at `to` that is the frame
 *   n · (to.num · from.den) / (to.den · from.num),
 * rounded half up to the nearest whole one: floor((2·n·a + b) / (2·b)) with a and b the two products.
 * Every boundary is rounded from its own position and lengths are differences of rounded boundaries, so
 * no error adds up: nothing starts more than half a new frame early or late, and the total is the nearest
 * whole frame. The products can pass 2^53, so then they are worked out in
 * whole numbers of any size; below it plain numbers are exact and a hundred times faster.
 */

/** The frame at `to` nearest to where frame `frame` stands at `from`, half up. */
export function conformedFrame(frame: number, from: Rate, to: Rate): number {
  const [aNumber, bNumber] = [to.num * from.den, to.den * from.num];
  const product = 2 * frame * aNumber + bNumber;
  if (product <= Number.MAX_SAFE_INTEGER && 2 * bNumber <= Number.MAX_SAFE_INTEGER)
    return (product - (product % (2 * bNumber))) / (2 * bNumber);
  const a = BigInt(to.num) * BigInt(from.den);
  const b = BigInt(to.den) * BigInt(from.num);
  return Number((2n * BigInt(frame) * a + b) / (2n * b));
}

/** How far frame `newFrame` at `to` stands from frame `frame` at `from`, in milliseconds; below 0 when it is early. */
export function driftMilliseconds(frame: number, from: Rate, newFrame: number, to: Rate): number {
  const [there, here] = [newFrame * to.den * from.num, frame * from.den * to.num];
  const den = to.num * from.num;
  const isExact = Math.max(there, here, den) <= Number.MAX_SAFE_INTEGER;
  const num = isExact ? there - here : Number(BigInt(newFrame) * BigInt(to.den * from.num) - BigInt(frame) * BigInt(from.den * to.num));
  // Thousandths of a millisecond, rounded half away from 0, so that −20 and 20 are one drift.
  return (Math.sign(num) * Math.round((Math.abs(num) * 1_000_000) / den)) / 1000 || 0;
}
