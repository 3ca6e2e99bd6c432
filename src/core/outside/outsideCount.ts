import type { SoundCount } from '@/core/count/soundCount';
import type { Rate } from '@/core/time/rate';

/** The form a count is written in. */
export const COUNT_VERSION = 1;

/** The numbers in the names of a sequence's files. Several numbers missing in a row are all there, up to a thousand. */
export type SequenceNumbers = {
  /** The name with `#` for each digit: `yard_####.png`. */
  readonly pattern: string;
  readonly firstNumber: number;
  readonly lastNumber: number;
  readonly missing: readonly number[];
  readonly twice: readonly number[];
};

/** A file among others that could not be read, and why. */
export type UnreadableFile = { readonly name: string; readonly reason: string };

/**
 * What a film, a loop, a row of pictures or a sound holds, whoever made it; nothing is known of what it should be. Frames count
 * from 0, times are in microseconds.
 */
export type OutsideCount = {
  readonly kind: 'film' | 'loop' | 'pictures' | 'sound';
  readonly name: string;
  readonly fileBytes: number;
  /** What it is made of, in words: `MP4, H.264`. */
  readonly made: string;
  readonly frames: number;
  /** The nearest rate the times fit, and those they fit as well; null where there are no times, or they fit none. */
  readonly rate: Rate | null;
  readonly otherRates: readonly Rate[];
  /** Frames that don't stand at their time by the nearest rate; frames whose time is not after the one before, in the order they are stored. */
  readonly mistimedFrames: readonly number[];
  readonly backwardFrames: readonly number[];
  /** When its first frame is shown; null where there are no times. */
  readonly startMicroseconds: number | null;
  readonly durationMicroseconds: number | null;
  readonly width: number;
  readonly height: number;
  /** Pictures of another size than the first, by how many have it. */
  readonly otherSizes: readonly { readonly width: number; readonly height: number; readonly frames: number }[];
  readonly colours: string | null;
  readonly keyFrames: number | null;
  readonly loop: { readonly microseconds: readonly number[]; readonly plays: number } | null;
  readonly sequence: SequenceNumbers | null;
  readonly sound: SoundCount | null;
  /** Why its pictures could not be looked at; null when they were. */
  readonly undecoded: string | null;
  readonly unreadable: readonly UnreadableFile[];
  /** What is odd about the file itself, each a sentence. */
  readonly notes: readonly string[];
};
