import { type FileTimes, rateOfTimes } from '@/core/count/fileTimes';
import type { ClipSpan, ClipTiming } from '@/core/document/clip';

/*
 * A clip whose frames all stand within a tick of where one rate has them is of that rate: files count time in ticks, and a
 * clip of 24 a second in thousandths has frames of 41 and 42. Any other is of no one rate and is read by its times, each to a
 * whole microsecond; every length is the difference of two of them, so that nothing adds up.
 */

/** When the frames of a clip are shown, from the times its file gives them; the first starts at 0. */
export function clipTimingOf(times: FileTimes): ClipTiming {
  const { rates, mistimedFrames } = rateOfTimes(times);
  const [rate] = rates;
  if (rate && mistimedFrames.length === 0) return { kind: 'constant', rate };
  const starts = times.startMicroseconds.map(Math.round);
  const spans: { frames: number; microseconds: number }[] = [];
  const add = (microseconds: number) => {
    const last = spans.at(-1);
    if (last?.microseconds === microseconds) last.frames++;
    else spans.push({ frames: 1, microseconds });
  };
  for (let frame = 1; frame < starts.length; frame++) add((starts[frame] as number) - (starts[frame - 1] as number));
  // Where the file doesn't say how long the last one stands, it stands as long as the one before.
  add(Math.max(1, Math.round(times.lastDurationMicroseconds ?? spans.at(-1)?.microseconds ?? 1)));
  return { kind: 'variable', spans: spans as readonly ClipSpan[] };
}

/** The first frames of a clip alone. */
export function timingOfFirst(timing: ClipTiming, frames: number): ClipTiming {
  if (timing.kind === 'constant') return timing;
  const spans: ClipSpan[] = [];
  let left = frames;
  for (const span of timing.spans) {
    if (left <= 0) break;
    spans.push({ ...span, frames: Math.min(left, span.frames) });
    left -= span.frames;
  }
  return { kind: 'variable', spans };
}
