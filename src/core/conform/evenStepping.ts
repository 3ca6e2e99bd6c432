import type { Rate } from '@/core/time/rate';

/** A source frame (from 0) that is shown more than once, and how often. */
export type FrameRepeat = { readonly frame: number; readonly times: number };

/** What stepping finished frames evenly to another rate does: source frames shown twice or more, and those never shown (from 0). */
export type EvenStepping = { readonly frames: number; readonly repeated: readonly FrameRepeat[]; readonly lost: readonly number[] };

/** The source frame that even stepping shows on output frame `frame`: the one that stands there, floor(k · from / to). */
export function steppedSource(frame: number, from: Rate, to: Rate): number {
  // Of whole numbers below 2⁵³ the rounded quotient is never past a whole number that the true one has not reached.
  const [over, under] = [frame * from.num * to.den, from.den * to.num];
  if (over <= Number.MAX_SAFE_INTEGER) return Math.floor(over / under);
  return Number((BigInt(frame) * BigInt(from.num) * BigInt(to.den)) / (BigInt(from.den) * BigInt(to.num)));
}

/**
 * What an editor's even stepping makes of `frames` finished frames (common practice): as many output frames
 * as it takes until the source is over, each showing the source frame that stands at its start.
 */
export function stepEvenly(frames: number, from: Rate, to: Rate): EvenStepping {
  const repeated: { frame: number; times: number }[] = [];
  const lost: number[] = [];
  let previous = -1;
  let output = 0;
  for (let source = steppedSource(0, from, to); source < frames; source = steppedSource(++output, from, to)) {
    const last = repeated.at(-1);
    if (last?.frame === source) last.times++;
    else if (source === previous) repeated.push({ frame: source, times: 2 });
    for (let skipped = previous + 1; skipped < source; skipped++) lost.push(skipped);
    previous = source;
  }
  for (let skipped = previous + 1; skipped < frames; skipped++) lost.push(skipped);
  return { frames: output, repeated, lost };
}
