import type { Rate } from '@/core/time/rate';

/*
 * A boundary on frame n at `from` stands at n·from.den/from.num seconds; at `to` that is the frame
 *   n · (to.num · from.den) / (to.den · from.num),
 * rounded half up to the nearest whole one: floor((2·n·a + b) / (2·b)) with a and b the two products.
 * Every boundary is rounded from its own position and lengths are differences of rounded boundaries, so
 * no error adds up: nothing starts more than half a new frame early or late, and the total is the nearest
 * whole frame. The products can pass 2^53, so they are worked out in whole numbers of any size.
 */

/** The frame at `to` nearest to where frame `frame` stands at `from`, half up. */
export function conformedFrame(frame: number, from: Rate, to: Rate): number {
  const a = BigInt(to.num) * BigInt(from.den);
  const b = BigInt(to.den) * BigInt(from.num);
  return Number((2n * BigInt(frame) * a + b) / (2n * b));
}

/** How far frame `newFrame` at `to` stands from frame `frame` at `from`, in milliseconds; below 0 when it is early. */
export function driftMilliseconds(frame: number, from: Rate, newFrame: number, to: Rate): number {
  const [fromNum, fromDen, toNum, toDen] = [from.num, from.den, to.num, to.den].map(BigInt) as [bigint, bigint, bigint, bigint];
  const num = BigInt(newFrame) * toDen * fromNum - BigInt(frame) * fromDen * toNum;
  // Thousandths of a millisecond, rounded half away from 0, so that −20 and 20 are one drift.
  const den = toNum * fromNum;
  const scaled = num * 1_000_000n * 2n;
  const rounded = (scaled >= 0n ? scaled + den : scaled - den) / (2n * den);
  return Number(rounded) / 1000;
}
