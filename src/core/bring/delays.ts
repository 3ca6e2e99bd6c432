import type { Rate } from '@/core/time/rate';

/*
 * An animated picture says of each of its pictures how long it stays, in milliseconds. Its boundaries stand at
 * T_i = d_1 + … + d_i; at a rate of num/den frames a second that is T_i·num/(1000·den) frames, rounded half up
 * to the nearest whole frame from its own position, so that no error adds up. A picture that would get no
 * frame keeps one, and boundaries after it are pushed no further than they must be.
 */

/** How an animated picture's own times come out in frames. */
export type DelayedExposure = {
  readonly delayMilliseconds: number;
  readonly frames: number;
  /** How far its end stands from where it should, in milliseconds; below 0 when it is early. */
  readonly driftMilliseconds: number;
  /** It would have got no frame, and keeps one. */
  readonly isKept: boolean;
};

/** Lengths in frames of pictures with their own times, whole milliseconds from 0. */
export function framesOfDelays(delaysMilliseconds: readonly number[], rate: Rate): readonly DelayedExposure[] {
  let passedMilliseconds = 0;
  let endFrame = 0;
  return delaysMilliseconds.map((delayMilliseconds) => {
    passedMilliseconds += delayMilliseconds;
    const thousandths = passedMilliseconds * rate.num;
    const wantedEnd = Math.floor((2 * thousandths + 1000 * rate.den) / (2000 * rate.den));
    const startFrame = endFrame;
    const isKept = wantedEnd <= startFrame;
    endFrame = Math.max(wantedEnd, startFrame + 1);
    const endMilliseconds = (endFrame * 1000 * rate.den) / rate.num;
    return {
      delayMilliseconds,
      frames: endFrame - startFrame,
      driftMilliseconds: Math.round((endMilliseconds - passedMilliseconds) * 1000) / 1000,
      isKept,
    };
  });
}
