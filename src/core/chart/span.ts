import { done, type Outcome, refused } from '@/core/outcome';
import { plural } from '@/core/time/counts';

/** How a span between two keys is filled: frames for the first key, then for each in-between. `endsShort` when the last has less than the step. */
export type SpanTiming = { readonly frames: readonly number[]; readonly endsShort: boolean };

/*
 * A span of S frames holds the first key and its in-betweens. On a step of s each takes s, so n of them
 * fit in full as long as (n + 1)·s ≤ S; what is left over goes to the first key. One more than that fits
 * still when n·s < S: then the first key and all but the last take s, and the last what remains.
 */

/** How many in-betweens fit a span in full on a step. */
export const inbetweensThatFit = (spanFrames: number, step: number): number => Math.max(0, Math.floor(spanFrames / step) - 1);

/** The most in-betweens a span can hold at all on a step, the last perhaps cut short. */
export const mostInbetweens = (spanFrames: number, step: number): number => Math.max(0, Math.ceil(spanFrames / step) - 1);

/** How `inbetweens` are timed over a span on a step; refuses more than fit, saying how many do. */
export function timeSpan(spanFrames: number, step: number, inbetweens: number): Outcome<SpanTiming> {
  const steps = Array.from({ length: inbetweens }, () => step);
  if ((inbetweens + 1) * step <= spanFrames) return done({ frames: [spanFrames - inbetweens * step, ...steps], endsShort: false });
  const last = spanFrames - inbetweens * step;
  if (last > 0) return done({ frames: [...steps, last], endsShort: last < step });
  const onOnes = Math.max(0, spanFrames - 1);
  const fit = mostInbetweens(spanFrames, step);
  const room = step === 1 ? `${onOnes} fit on ones` : `${fit} fit on ${step}s, ${onOnes} on ones`;
  return refused(
    `${plural(inbetweens, 'in-between')} ${step === 1 ? 'on ones' : `on ${step}s`} don't fit: the keys are ${plural(spanFrames, 'frame')} apart; ${room}.`,
  );
}
