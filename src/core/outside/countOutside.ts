import { type FileTimes, rateOfTimes } from '@/core/count/fileTimes';
import type { FrameDigests } from '@/core/count/frameDigests';
import { type ReadSound, Undecodable } from '@/core/count/readBack';
import { countSound, type SoundCount } from '@/core/count/soundCount';
import type { Size } from '@/core/document/model';
import type { Blocks } from '@/core/outside/look';
import type { OutsideCount, SequenceNumbers, UnreadableFile } from '@/core/outside/outsideCount';
import { FrameWatch, type SeenFrames } from '@/core/outside/seenFrames';
import { LoudnessCurve } from '@/core/outside/soundShift';
import { KNOWN_RATES, sameRate } from '@/core/time/rate';

/** A frame as it was decoded; one that could not be is told with its name and why. */
export type OutsideFrame =
  | { readonly kind: 'seen'; readonly blocks: Blocks; readonly fingerprint: string | null; readonly size: Size }
  | ({ readonly kind: 'unreadable' } & UnreadableFile);

/**
 * A file that was opened to be counted. `listedFrames` is how many it says it has, null where it has no list. Walking `frames`
 * throws `Undecodable` where its pictures can't be decoded on this machine; null where it has none. `notes` is asked once all was read.
 */
export type OpenedOutside = {
  readonly kind: OutsideCount['kind'];
  readonly name: string;
  readonly fileBytes: number;
  readonly made: string;
  readonly listedFrames: number | null;
  readonly times: FileTimes | null;
  /** The stamps by which a film's frames are decoded, in seconds, in the order they are shown; null for what has none. */
  readonly stampSeconds: readonly number[] | null;
  readonly size: Size | null;
  readonly colours: string | null;
  readonly keyFrames: number | null;
  readonly loop: OutsideCount['loop'];
  readonly sequence: SequenceNumbers | null;
  readonly frames: AsyncIterable<OutsideFrame> | null;
  readonly sound: ReadSound | null;
  readonly notes: () => readonly string[];
  /** SHA-256 of the file, null for several; and of what it holds for each frame, once all were walked. */
  readonly digests: () => Promise<FileDigests>;
};

/** SHA-256 of a file, and of its packets or picture files in the order they are shown; null where that isn't known. */
export type FileDigests = { readonly file: string | null; readonly frames: FrameDigests | null };

/** A count with what its frames look like and how loud it is each hundredth of a second, to be held against others; null where that could not be looked at. */
export type CountedOutside = {
  readonly count: OutsideCount;
  readonly seen: SeenFrames | null;
  readonly loudness: Float32Array | null;
  readonly digests: FileDigests;
};

type Timing = Pick<
  OutsideCount,
  'rate' | 'otherRates' | 'mistimedFrames' | 'backwardFrames' | 'startMicroseconds' | 'durationMicroseconds'
>;

const UNTIMED: Timing = {
  rate: null,
  otherRates: [],
  mistimedFrames: [],
  backwardFrames: [],
  startMicroseconds: null,
  durationMicroseconds: null,
};

/** Frames that are shown no later than the one before. */
function framesGoingBack(startMicroseconds: readonly number[]): readonly number[] {
  const frames: number[] = [];
  for (let frame = 1; frame < startMicroseconds.length; frame++)
    if ((startMicroseconds[frame] as number) <= (startMicroseconds[frame - 1] as number)) frames.push(frame);
  return frames;
}

/** What a film's times tell; they may begin anywhere. */
function timingOf(times: FileTimes): Timing {
  const [first] = times.startMicroseconds;
  if (first === undefined) return UNTIMED;
  const startMicroseconds = first === 0 ? times.startMicroseconds : times.startMicroseconds.map((start) => start - first);
  const { rates, mistimedFrames } = rateOfTimes({ ...times, startMicroseconds });
  // One frame is too short to tell a rate that has no name.
  const isTold = times.startMicroseconds.length > 1 || KNOWN_RATES.some(({ rate }) => rates[0] && sameRate(rate, rates[0]));
  const last = times.lastDurationMicroseconds ?? (rates[0] ? (rates[0].den * 1_000_000) / rates[0].num : 0);
  return {
    rate: isTold ? (rates[0] ?? null) : null,
    otherRates: isTold ? rates.slice(1) : [],
    mistimedFrames,
    backwardFrames: framesGoingBack(startMicroseconds),
    startMicroseconds: Math.round(first),
    durationMicroseconds: Math.round((startMicroseconds.at(-1) ?? 0) + last),
  };
}

const sumOf = (microseconds: readonly number[]): number => microseconds.reduce((sum, each) => sum + each, 0);

/** The sizes of pictures, each with how many have it. */
class Sizes {
  private readonly counts = new Map<string, { width: number; height: number; frames: number }>();

  take({ width, height }: Size): void {
    const key = `${width}x${height}`;
    const known = this.counts.get(key);
    if (known) known.frames++;
    else this.counts.set(key, { width, height, frames: 1 });
  }

  get all(): readonly { readonly width: number; readonly height: number; readonly frames: number }[] {
    return [...this.counts.values()];
  }
}

type Watched = { readonly seen: SeenFrames | null; readonly undecoded: string | null; readonly unreadable: readonly UnreadableFile[] };

async function watch(opened: OpenedOutside, sizes: Sizes, onFrame: (frames: number) => void): Promise<Watched> {
  if (!opened.frames) return { seen: null, undecoded: null, unreadable: [] };
  const watching = new FrameWatch(opened.listedFrames ?? 0);
  const unreadable: UnreadableFile[] = [];
  let frames = 0;
  try {
    for await (const frame of opened.frames) {
      frames++;
      if (frame.kind === 'unreadable') unreadable.push({ name: frame.name, reason: frame.reason });
      else {
        sizes.take(frame.size);
        watching.take(frame.blocks, frame.size.width, frame.fingerprint);
      }
      onFrame(frames);
    }
  } catch (error) {
    if (!(error instanceof Undecodable)) throw error;
    const seen = watching.seen;
    return { seen: seen.frames > 0 ? seen : null, undecoded: seen.frames > 0 ? null : error.message, unreadable };
  }
  return { seen: watching.seen, undecoded: null, unreadable };
}

/** Counts a file's sound, and how loud it is along its length. */
async function listen(sound: ReadSound): Promise<{ readonly count: SoundCount; readonly loudness: Float32Array | null }> {
  const curve = new LoudnessCurve(sound.sampleRate);
  const count = await countSound(sound, (channels, startSample) => curve.take(channels, startSample));
  return { count, loudness: count.undecoded === null ? curve.curve : null };
}

/** Frames of a list that could not be decoded, as a sentence. */
function cutShort(listed: number | null, { seen, undecoded }: Watched, kind: OutsideCount['kind']): readonly string[] {
  if (kind === 'pictures' || listed === null || undecoded !== null || !seen || seen.frames >= listed) return [];
  return [`Its list has ${listed} frames, ${seen.frames} of them decode: it is broken from frame ${seen.frames + 1} on.`];
}

/** Counts a file that was opened, frame by frame; `onFrame` is told how many have been looked at. */
export async function countOutside(given: OpenedOutside, onFrame: (frames: number) => void = () => undefined): Promise<CountedOutside> {
  const sizes = new Sizes();
  // Before anything is kept of the pictures: what working it out takes is free again by then, and so are the times themselves.
  const timing = given.times ? timingOf(given.times) : UNTIMED;
  const opened = { ...given, times: null, stampSeconds: null };
  const [watched, heard] = await Promise.all([watch(opened, sizes, onFrame), opened.sound && listen(opened.sound)]);
  const [first, ...otherSizes] = sizes.all;
  const size = opened.size ?? first ?? { width: 0, height: 0 };
  const { loop } = opened;
  const count: OutsideCount = {
    kind: opened.kind,
    name: opened.name,
    fileBytes: opened.fileBytes,
    made: opened.made,
    // A film has as many frames as its list says, or as decode where it says more; pictures as many as can be read.
    frames:
      opened.kind === 'film' ? (opened.listedFrames ?? watched.seen?.frames ?? 0) : (watched.seen?.frames ?? opened.listedFrames ?? 0),
    ...timing,
    // Pictures of a loop stand as long as each says: off their time they are only by what they are held against.
    mistimedFrames: loop ? [] : timing.mistimedFrames,
    durationMicroseconds: loop ? sumOf(loop.microseconds) : timing.durationMicroseconds,
    width: size.width,
    height: size.height,
    otherSizes: opened.kind === 'pictures' ? otherSizes : [],
    colours: opened.colours,
    keyFrames: opened.keyFrames,
    loop,
    sequence: opened.sequence,
    sound: heard?.count ?? null,
    undecoded: watched.undecoded,
    unreadable: watched.unreadable,
    notes: [...opened.notes(), ...cutShort(opened.listedFrames, watched, opened.kind)],
  };
  return {
    count,
    seen: watched.seen && watched.seen.frames > 0 ? watched.seen : null,
    loudness: heard?.loudness ?? null,
    digests: await opened.digests(),
  };
}
