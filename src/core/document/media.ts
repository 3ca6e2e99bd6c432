import type { LevelMedia } from '@/core/document/model';
import type { Rate } from '@/core/time/rate';

/** A clip's pictures a second, on average, to a hundredth. */
export const rateOfClip = ({ frames, lengthMicroseconds }: LevelMedia): number => Math.round((frames * 1e8) / lengthMicroseconds) / 100;

/** How far the end of a clip may lie from where a rate puts it, in frames: files count in whole milliseconds. */
const SAME_FRAMES = 0.5;

/** Whether a clip's pictures come at a rate: all of them, taken one a frame, last as long as the clip does. */
export const isAtRate = ({ frames, lengthMicroseconds }: LevelMedia, rate: Rate): boolean =>
  Math.abs((lengthMicroseconds * rate.num) / (1e6 * rate.den) - frames) <= SAME_FRAMES;
