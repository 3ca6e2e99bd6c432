import type { Rate } from '@/core/time/rate';

/*
 * Frame n of a rate num/den starts at n·den/num seconds. The product is exact in whole numbers as
 * long as n·den·1,000,000 stays below 2^53, which holds for every frame index and rate allowed here;
 * so a time is worked out from its index each time and never added up.
 */

/** A time in seconds as an exact fraction, not necessarily in lowest terms. */
export type Seconds = { readonly num: number; readonly den: number };

/** The moment frame `frameIndex` (from 0) starts, exactly. */
export const startOfFrame = (frameIndex: number, rate: Rate): Seconds => ({ num: frameIndex * rate.den, den: rate.num });

/** The moment frame `frameIndex` starts, in whole microseconds, rounded half up, never summed. */
export const startMicroseconds = (frameIndex: number, rate: Rate): number =>
  Math.floor((frameIndex * rate.den * 1_000_000) / rate.num + 0.5);

/** The frame that shows at `elapsedMilliseconds` after the start of frame 0 (a frame holds its start, not its end). */
export const frameAtMilliseconds = (elapsedMilliseconds: number, rate: Rate): number =>
  Math.floor((elapsedMilliseconds * rate.num) / (rate.den * 1000) + 1e-9);

/** Seconds to three places, half up: `1.250`; exact for any frame count here. */
export function secondsText(frames: number, rate: Rate): string {
  const thousandths = Math.floor((frames * rate.den * 2000 + rate.num) / (2 * rate.num));
  return `${Math.floor(thousandths / 1000)}.${String(thousandths % 1000).padStart(3, '0')}`;
}

/** Whether `frames` last a whole number of thousandths of a second, so that `secondsText` is exact. */
export const isExactInThousandths = (frames: number, rate: Rate): boolean => (frames * rate.den * 1000) % rate.num === 0;
