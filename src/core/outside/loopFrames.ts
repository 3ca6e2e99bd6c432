import { REPEAT, type SeenFrames } from '@/core/outside/seenFrames';
import type { Rate } from '@/core/time/rate';

/**
 * The pictures of a loop as frames at a rate: each stands from the frame nearest to its true beginning to the one nearest to its
 * end (half up), so that nothing that is rounded adds up. A picture of less than half a frame may have none.
 */
export function loopFrames(seen: SeenFrames, microseconds: readonly number[], rate: Rate): SeenFrames {
  const pictureOf: number[] = [];
  const repeats: number[] = [];
  let end = 0;
  for (let picture = 0; picture < seen.frames; picture++) {
    end += microseconds[picture] ?? 0;
    const endFrame = Math.floor((end * rate.num) / (rate.den * 1_000_000) + 0.5);
    for (let isFirst = true; pictureOf.length < endFrame; isFirst = false) {
      pictureOf.push(seen.pictureOf[picture] as number);
      repeats.push(isFirst ? (seen.repeats[picture] as number) : REPEAT.exact);
    }
  }
  return { ...seen, frames: pictureOf.length, pictureOf: Uint32Array.from(pictureOf), repeats: Uint8Array.from(repeats) };
}
