import { type Beside, isClearlyFound, isFoundMore, layBeside } from '@/core/outside/agreement';
import { type Agreement, agreementOf, type HeldAgainst } from '@/core/outside/agreementWords';
import type { CountedOutside } from '@/core/outside/countOutside';
import { framesOffTime, loopFrames, loopTickMicroseconds } from '@/core/outside/loopFrames';
import type { OutsideCount } from '@/core/outside/outsideCount';
import type { SeenFrames } from '@/core/outside/seenFrames';
import { soundShift } from '@/core/outside/soundShift';
import type { Rate } from '@/core/time/rate';

/** What a file is held against, with what its frames look like and how loud it is; null where that isn't known. */
export type Plan = {
  readonly plan: HeldAgainst;
  readonly seen: SeenFrames | null;
  readonly loudness: Float32Array | null;
};

const soundMicroseconds = ({ sound }: OutsideCount): number | null => (sound ? (sound.samples * 1_000_000) / sound.sampleRate : null);

/**
 * A loop as the frames it shows at a rate; anything else as it is. What its own times come to is no rate it has: pictures on twos of 24
 * stand like those of 12.
 */
function inFrames({ count, seen }: CountedOutside, rate: Rate | null): { readonly count: OutsideCount; readonly seen: SeenFrames | null } {
  const at = rate ?? count.rate;
  if (!count.loop || !seen || !at) return { count, seen };
  const { microseconds } = count.loop;
  const frames = loopFrames(seen, microseconds, at);
  const mistimedFrames = framesOffTime(microseconds, at, loopTickMicroseconds(count.made));
  return { count: { ...count, frames: frames.frames, rate: at, otherRates: [], mistimedFrames }, seen: frames };
}

/** A file as something that others are held against. */
export function planOfFile(file: CountedOutside, rate: Rate | null = null): Plan {
  const { count, seen } = inFrames(file, rate);
  return {
    plan: {
      name: count.name,
      frames: count.frames,
      firstNumber: count.sequence?.firstNumber ?? 1,
      rate: count.rate ?? rate,
      size: { width: count.width, height: count.height },
      soundMicroseconds: soundMicroseconds(count),
    },
    seen,
    loudness: file.loudness,
  };
}

/**
 * What holding a file against a plan found; `beside` is null where one of them was not seen, `frames` how many of the file's were, and
 * `rate` that of those frames.
 */
export type Held = { readonly agreement: Agreement; readonly beside: Beside | null; readonly frames: number; readonly rate: Rate | null };

function holdAt({ plan, seen, loudness }: Plan, file: CountedOutside, rate: Rate | null): Held {
  const { count, seen: fileSeen } = inFrames(file, rate);
  const beside = seen && fileSeen ? layBeside(seen, fileSeen, plan.rate, Math.min(plan.size.width, count.width)) : null;
  const shift = loudness && file.loudness ? soundShift(loudness, file.loudness) : null;
  return { agreement: agreementOf(plan, count, beside, shift), beside, frames: fileSeen?.frames ?? count.frames, rate: count.rate };
}

/** Holds a file against a plan: what agrees, and what does not. */
export function holdAgainst(plan: Plan, file: CountedOutside): Held {
  const held = holdAt(plan, file, plan.plan.rate);
  const isEachThere = held.beside?.alignment && held.beside.faults.length === 0;
  if (!file.count.loop || !file.count.rate || isEachThere) return held;
  // One of every second frame of a film stands like those on twos; that it is one in so many says more than all that are missing.
  const own = holdAt(plan, file, file.count.rate);
  return own.beside && own.beside.multiple !== null ? own : held;
}

/**
 * Holds a file against a plan, and where that finds little, against the plan's drawings alone, as `alone` gives them (null where they
 * lie on no background): files often leave without it. `isDrawingsAlone` is whether that found more.
 */
export async function holdAsItLeft(
  plan: Plan,
  alone: () => Promise<SeenFrames | null>,
  file: CountedOutside,
): Promise<{ readonly held: Held; readonly isDrawingsAlone: boolean }> {
  const held = holdAgainst(plan, file);
  const { beside, frames } = held;
  if (!beside || isClearlyFound(beside, Math.min(plan.plan.frames, frames))) return { held, isDrawingsAlone: false };
  const seen = await alone();
  const other = seen && holdAgainst({ ...plan, plan: { ...plan.plan, isDrawingsAlone: true }, seen }, file);
  return other?.beside && isFoundMore(other.beside, beside) ? { held: other, isDrawingsAlone: true } : { held, isDrawingsAlone: false };
}
