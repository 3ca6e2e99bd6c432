import { type ReadSound, Undecodable } from '@/core/count/readBack';
import { sampleOfFrame } from '@/core/document/sound';
import type { Rate } from '@/core/time/rate';

/*
 * A film's sound is counted like its pictures: opened again, decoded, and held against what was mixed. Coding changes every
 * sample a little, so it is held frame by frame: how loud each frame of the film is (the root of the mean of the squares of
 * its samples, 1 being full scale) must be as it was meant. What was cut, moved by a frame or repeated shows there.
 */

/** How loud each frame of a film is: samples are taken as they come, from the film's first on, and summed for the frame they are heard on. */
export class LoudnessByFrame {
  private readonly squares: Float64Array;
  private readonly counts: Float64Array;
  private readonly ends: readonly number[];

  constructor(
    private readonly frames: number,
    rate: Rate,
    sampleRate: number,
  ) {
    this.squares = new Float64Array(frames);
    this.counts = new Float64Array(frames);
    this.ends = Array.from({ length: frames }, (_, frame) => sampleOfFrame(frame + 1, rate, sampleRate));
  }

  /** Takes samples of every channel, the first of them the film's sample `startSample` (from 0; what is before it is not heard). */
  take(channels: readonly Float32Array[], startSample: number): void {
    const length = channels[0]?.length ?? 0;
    let at = Math.max(0, -startSample);
    let frame = this.frameAt(startSample + at);
    for (; at < length && frame < this.frames; frame++) {
      const end = Math.min(length, (this.ends[frame] as number) - startSample);
      for (const channel of channels) {
        let squares = 0;
        for (let index = at; index < end; index++) {
          const value = Math.max(-1, Math.min(1, channel[index] as number));
          squares += value * value;
        }
        this.squares[frame] = (this.squares[frame] as number) + squares;
      }
      this.counts[frame] = (this.counts[frame] as number) + (end - at) * channels.length;
      at = end;
    }
  }

  private frameAt(sample: number): number {
    let low = 0;
    let high = this.frames;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.ends[middle] as number) <= sample) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** How loud each frame is; 0 for one no sample was taken for. */
  levels(): Float32Array {
    return Float32Array.from(this.squares, (squares, frame) => Math.sqrt(squares / Math.max(1, this.counts[frame] as number)));
  }
}

/** A counted sound with the frames of the film (from 0) on which another sound is heard than was mixed; null where it could not be decoded. */
export type ComparedSound = SoundCount & { readonly wrongFrames: readonly number[] | null };

/**
 * What a file holds of sound, counted from it alone. `startSample` is where the first sample that is heard stands, `samples` how
 * many are heard by the file's own times, both at `sampleRate`; `peak` is null where it could not be decoded.
 */
export type SoundCount = {
  readonly codec: string;
  readonly sampleRate: number;
  readonly channels: number;
  readonly startSample: number;
  readonly samples: number;
  readonly peak: number | null;
  /** Why it could not be decoded. */
  readonly undecoded: string | null;
};

/** Counts a file's sound; `take` is handed each part as it is decoded, with the place of its first sample. */
export async function countSound(
  { parts, samples, ...told }: ReadSound,
  take: (channels: readonly Float32Array[], startSample: number) => void,
): Promise<SoundCount> {
  let peak = 0;
  let endSample = told.startSample;
  try {
    for await (const { startSample, channels } of parts) {
      endSample = Math.max(endSample, startSample + (channels[0]?.length ?? 0));
      for (const channel of channels) for (const value of channel) peak = Math.max(peak, Math.abs(value));
      take(channels, startSample);
    }
    return { ...told, samples: samples ?? endSample - told.startSample, peak, undecoded: null };
  } catch (error) {
    if (!(error instanceof Undecodable)) throw error;
    return { ...told, samples: samples ?? 0, peak: null, undecoded: error.message };
  }
}

/** How far a frame of coded sound may be from what was meant: a part of full scale, and a part of the louder of the two. */
const CODED_TOLERANCE = { scale: 0.03, part: 0.3 };
/** Sound that keeps every sample is only rounded, to 16 bits at worst. */
const KEPT_TOLERANCE = { scale: 0.0005, part: 0.001 };

/** How loud a frame is with those next to it, of `frames` in all; what is not there is silent. */
function withNeighbours(levels: Float32Array, frame: number, frames: number): number {
  const [from, to] = [Math.max(0, frame - 1), Math.min(frames, frame + 2)];
  let squares = 0;
  for (let near = from; near < to; near++) squares += (levels[near] ?? 0) ** 2;
  return Math.sqrt(squares / (to - from));
}

/**
 * Frames (from 0) on which a counted sound is not as loud as it was meant; `isKept` for codings that keep every sample. Coding
 * smears a click over some milliseconds, and so over the edge of a frame: it must be off with its neighbours, too.
 */
export function wrongSoundFrames(meant: Float32Array, counted: Float32Array, isKept: boolean): readonly number[] {
  const { scale, part } = isKept ? KEPT_TOLERANCE : CODED_TOLERANCE;
  const isOff = (a: number, b: number) => Math.abs(a - b) > scale + part * Math.max(a, b);
  return [...meant.keys()].filter(
    (frame) =>
      isOff(meant[frame] as number, counted[frame] ?? 0) &&
      (isKept || isOff(withNeighbours(meant, frame, meant.length), withNeighbours(counted, frame, meant.length))),
  );
}

/** A factor of full scale as decibels below it: `−3.0 dBFS`; silence has none. */
export const decibelsText = (peak: number): string =>
  peak <= 0 ? 'silence' : `${(20 * Math.log10(peak)).toFixed(1).replace('-', '−')} dBFS`;
