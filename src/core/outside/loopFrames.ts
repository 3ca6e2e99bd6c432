import { REPEAT, type SeenFrames } from '@/core/outside/seenFrames';
import type { Rate } from '@/core/time/rate';

/**
 * Which picture of a loop each frame at a rate shows: one stands from the frame nearest to its true beginning to the one nearest to
 * its end (half up), so that nothing that is rounded adds up. A picture of less than half a frame may have none.
 */
export function loopPictureOf(microseconds: readonly number[], rate: Rate): readonly number[] {
  const shown: number[] = [];
  let end = 0;
  for (const [picture, time] of microseconds.entries()) {
    end += time;
    const endFrame = Math.floor((end * rate.num) / (rate.den * 1_000_000) + 0.5);
    while (shown.length < endFrame) shown.push(picture);
  }
  return shown;
}

/** The pictures of a loop as the frames they show at a rate. */
export function loopFrames(seen: SeenFrames, microseconds: readonly number[], rate: Rate): SeenFrames {
  const shown = loopPictureOf(microseconds.slice(0, seen.frames), rate);
  const isAgain = (frame: number) => shown[frame] === shown[frame - 1];
  return {
    ...seen,
    frames: shown.length,
    pictureOf: Uint32Array.from(shown, (picture) => seen.pictureOf[picture] as number),
    repeats: Uint8Array.from(shown, (picture, frame) => (isAgain(frame) ? REPEAT.exact : (seen.repeats[picture] as number))),
  };
}

/** How finely a loop's times are counted: a GIF's in hundredths of a second; those of others are told to a thousandth. */
export const loopTickMicroseconds = (made: string): number => (made === 'GIF' ? 10_000 : 1000);

/**
 * The frames at a rate that pictures of a loop are meant to begin on and don't: those it begins further from than its times can help.
 * Every picture may stand for any number of frames.
 */
export function framesOffTime(microseconds: readonly number[], rate: Rate, tickMicroseconds: number): readonly number[] {
  const frames = new Set<number>();
  let start = 0;
  for (const time of microseconds) {
    const frame = Math.round((start * rate.num) / (rate.den * 1_000_000));
    if (Math.abs(start - (frame * rate.den * 1_000_000) / rate.num) > tickMicroseconds) frames.add(frame);
    start += time;
  }
  return [...frames];
}
