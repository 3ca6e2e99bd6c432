import { rateOfTimes } from '@/core/count/fileTimes';
import { type FrameDigests, frameDigests } from '@/core/count/frameDigests';
import { type ReadBack, type ReadFrame, type ReadLoop, Undecodable } from '@/core/count/readBack';
import { countSound, type SoundCount } from '@/core/count/soundCount';
import type { Rate } from '@/core/time/rate';

/**
 * What a file holds, counted from it alone.
 * `hasTimes` is false for picture files, which carry none. `rate` is the nearest that the file's times fit, `otherRates`
 * those they fit as well; null when they fit none. `durationMicroseconds` is the end of the last frame as the file says
 * it, null when it doesn't; `timeToleranceMicroseconds` is how finely its container counts time. `mistimedFrames` (from 0)
 * don't start at their time by the nearest rate.
 */
export type FileCount = {
  readonly frames: number;
  readonly hasTimes: boolean;
  readonly rate: Rate | null;
  readonly otherRates: readonly Rate[];
  readonly durationMicroseconds: number | null;
  readonly timeToleranceMicroseconds: number;
  readonly width: number;
  readonly height: number;
  readonly mistimedFrames: readonly number[];
  /** What the file says of its colours; null where it says nothing. */
  readonly colours: string | null;
  /** Frames (from 0) that are key frames, in films; null elsewhere. */
  readonly keyFrames: readonly number[] | null;
  /** Null for a file that is no loop. */
  readonly loop: ReadLoop | null;
  /** Null for a file without sound. */
  readonly sound: SoundCount | null;
};

/** A count with the digests of what the file holds for each frame, and why its pictures could not be decoded; null when they were. */
export type CountedFile = { readonly count: FileCount; readonly digests: FrameDigests | null; readonly undecoded: string | null };

type Timing = Omit<FileCount, 'frames' | 'width' | 'height' | 'colours' | 'keyFrames' | 'loop' | 'sound'>;

const UNTIMED: Timing = {
  hasTimes: false,
  rate: null,
  otherRates: [],
  durationMicroseconds: null,
  timeToleranceMicroseconds: 0,
  mistimedFrames: [],
};

function timingOf({ times }: ReadBack): Timing {
  if (!times) return UNTIMED;
  const { rates, mistimedFrames } = rateOfTimes(times);
  const { startMicroseconds, lastDurationMicroseconds, tickMicroseconds } = times;
  return {
    hasTimes: true,
    rate: rates[0] ?? null,
    otherRates: rates.slice(1),
    durationMicroseconds: lastDurationMicroseconds === null ? null : (startMicroseconds.at(-1) ?? 0) + lastDurationMicroseconds,
    timeToleranceMicroseconds: Math.max(1, tickMicroseconds),
    mistimedFrames,
  };
}

/**
 * Counts a file that was opened, frame by frame; `take` is handed each frame as it is read, for whoever compares its
 * picture, and `takeSound` each part of its sound. Pictures that can't be decoded are counted by the file's own list of times.
 */
export async function countFile(
  readBack: ReadBack,
  take: (frame: ReadFrame) => void,
  takeSound: (channels: readonly Float32Array[], startSample: number) => void = () => undefined,
): Promise<CountedFile> {
  let size = readBack.size;
  let frames = 0;
  let undecoded: string | null = null;
  const stillDigests: string[] = [];
  try {
    for await (const frame of readBack.frames) {
      frames++;
      size ??= frame.picture.size ?? null;
      if (frame.digest !== null) stillDigests.push(frame.digest);
      take(frame);
    }
  } catch (error) {
    if (!(error instanceof Undecodable)) throw error;
    undecoded = error.message;
    frames = readBack.times?.startMicroseconds.length ?? frames;
  }
  const { packetDigests, keyFrames } = readBack;
  const sound = readBack.sound && (await countSound(readBack.sound, takeSound));
  return {
    count: {
      frames,
      ...timingOf(readBack),
      width: size?.width ?? 0,
      height: size?.height ?? 0,
      colours: readBack.colours(),
      keyFrames,
      loop: readBack.loop,
      sound,
    },
    digests: packetDigests ? frameDigests('packet', packetDigests) : stillDigests.length > 0 ? frameDigests('file', stillDigests) : null,
    undecoded,
  };
}
