import type { CountedOutside } from '@/core/outside/countOutside';
import { allLooks, looksOf } from '@/core/outside/looks';
import { REPEAT, type SeenFrames } from '@/core/outside/seenFrames';
import { LOUDNESS_A_SECOND } from '@/core/outside/soundShift';
import { plural } from '@/core/time/counts';
import { type Rate, rateName, sameRate } from '@/core/time/rate';

/*
 * A stand-in of our own for a program that films are edited with: it takes what was handed over by settings of its own, as such
 * programs do before anybody has looked at them, and shows what comes out. Nothing in it is taken from any program.
 */

/** What the bench does with what it is given. */
export type BenchSettings = {
  /** The rate pictures are read at, which have none. */
  readonly pictureRate: Rate;
  /** Whether files come by their numbers, or letter by letter: `a_10` before `a_2`. */
  readonly order: 'numbers' | 'letters';
  /** What stands where a number is missing. */
  readonly missing: 'nothing' | 'the picture before' | 'black';
  /** How the colours of half-transparent pixels of pictures are taken: as they are, or as if they had been multiplied by how opaque each is. */
  readonly transparency: 'straight' | 'premultiplied';
  /** By how many frames a film's sound is laid later than its picture; earlier below 0. */
  readonly soundLateFrames: number;
  /** Whether a film's rate is taken as the nearest whole number. */
  readonly roundsRates: boolean;
  /** The rate everything is shown at; null for each its own. Frames are stepped evenly to it. */
  readonly outRate: Rate | null;
};

export const BENCH_SETTINGS: BenchSettings = {
  pictureRate: { num: 30, den: 1 },
  order: 'numbers',
  missing: 'the picture before',
  transparency: 'straight',
  soundLateFrames: 0,
  roundsRates: false,
  outRate: null,
};

/** What comes out: for each frame the frame of the file it shows, null where it is black; how fast; and what to set to have it right. */
export type BenchResult = {
  readonly sourceOf: readonly (number | null)[];
  readonly rate: Rate;
  readonly fixes: readonly string[];
};

/** Pictures in the order and with the gaps the bench makes of them. `numbers` are those in their names, in the order of the numbers. */
function orderedPictures(
  frames: number,
  names: readonly string[],
  numbers: readonly number[],
  { order, missing }: BenchSettings,
): (number | null)[] {
  const byNumber = Array.from({ length: frames }, (_, frame) => frame);
  // By code units, as programs do that know nothing of numbers.
  const placed = order === 'letters' ? byNumber.toSorted((a, b) => ((names[a] as string) < (names[b] as string) ? -1 : 1)) : byNumber;
  if (missing === 'nothing' || order === 'letters') return placed;
  return placed.flatMap((frame, place): (number | null)[] => {
    const gap = place === 0 ? 0 : Math.max(0, (numbers[place] as number) - (numbers[place - 1] as number) - 1);
    return [...Array.from({ length: gap }, () => (missing === 'black' ? null : frame - 1)), frame];
  });
}

const rounded = ({ num, den }: Rate): Rate => ({ num: Math.round(num / den), den: 1 });

/**
 * What the bench makes of something that was counted; with `transparency` premultiplied, counted that way. `isBrighter` is whether
 * some of its colours are brighter than premultiplied ones can be.
 */
export function benchOf(
  { count }: CountedOutside,
  names: readonly string[],
  numbers: readonly number[],
  settings: BenchSettings,
  planRate: Rate | null,
  isBrighter = false,
): BenchResult {
  const fixes: string[] = [];
  const isPictures = count.kind === 'pictures';
  const own = isPictures ? settings.pictureRate : (count.rate ?? settings.pictureRate);
  const rate = settings.roundsRates && !isPictures ? rounded(own) : own;
  let sourceOf: readonly (number | null)[] = isPictures
    ? orderedPictures(count.frames, names, numbers, settings)
    : Array.from({ length: count.frames }, (_, frame) => frame);
  if (isPictures && planRate && !sameRate(rate, planRate))
    fixes.push(`Set its rate for pictures to ${rateName(planRate)} before bringing them in.`);
  if (isPictures && settings.order === 'letters' && sourceOf.some((frame, place) => frame !== place))
    fixes.push('Hand over with as many digits in every number (0001, 0002 …), so that letters and numbers come in one order.');
  if (count.sequence && count.sequence.missing.length > 0)
    fixes.push(`Bring in the ${plural(count.sequence.missing.length, 'missing picture')} first, or hand the sequence over again.`);
  if (isBrighter) fixes.push('Set transparency to straight: its colours are brighter than premultiplied ones can be.');
  if (count.sound && settings.soundLateFrames !== 0) {
    const way = settings.soundLateFrames > 0 ? 'later' : 'earlier';
    fixes.push(`Lay its sound where its picture begins: it is laid ${plural(Math.abs(settings.soundLateFrames), 'frame')} ${way}.`);
  }
  if (!isPictures && settings.roundsRates && !sameRate(rate, own))
    fixes.push(`Set the clip’s rate to ${rateName(own)} exactly; it was rounded to ${rateName(rate)}.`);
  if (settings.outRate && !sameRate(settings.outRate, rate)) {
    const { outRate } = settings;
    const frames = Math.floor((sourceOf.length * outRate.num * rate.den) / (outRate.den * rate.num));
    const before = sourceOf;
    sourceOf = Array.from(
      { length: frames },
      (_, frame) => before[Math.floor((frame * outRate.den * rate.num) / (outRate.num * rate.den))] ?? null,
    );
    fixes.push(`Set the timeline to ${rateName(planRate ?? rate)}: at ${rateName(outRate)} its frames are stepped.`);
  }
  return { sourceOf, rate: settings.outRate ?? rate, fixes };
}

/** How long a number of frames lasts, in seconds. */
export const lateSeconds = ({ soundLateFrames }: BenchSettings, { rate }: BenchResult): number => (soundLateFrames * rate.den) / rate.num;

/** A loudness curve that begins later, silent before; earlier, without its beginning, below 0. */
function movedLoudness(curve: Float32Array, seconds: number): Float32Array {
  const steps = Math.round(seconds * LOUDNESS_A_SECOND);
  const out = new Float32Array(Math.max(0, curve.length + steps));
  out.set(curve.subarray(Math.max(0, -steps)), Math.max(0, steps));
  return out;
}

/** What comes out of the bench as if it had been counted, to be held against a plan. */
export function benchCount(file: CountedOutside, result: BenchResult, settings: BenchSettings): CountedOutside {
  const { sourceOf, rate } = result;
  const { count, seen, digests } = file;
  const frames = sourceOf.length;
  return {
    count: {
      ...count,
      kind: 'film',
      frames,
      rate,
      otherRates: [],
      mistimedFrames: [],
      durationMicroseconds: Math.round((frames * rate.den * 1_000_000) / rate.num),
      sequence: null,
      loop: null,
    },
    seen: seen && rearranged(seen, sourceOf),
    loudness: file.loudness && movedLoudness(file.loudness, lateSeconds(settings, result)),
    digests: { ...digests, frames: null },
  };
}

/** Frames in another order; black ones are a picture of their own. */
function rearranged(seen: SeenFrames, sourceOf: readonly (number | null)[]): SeenFrames {
  const { count: blackAt, lookBytes } = seen.pictures;
  const black = Uint8Array.from({ length: lookBytes }, (_, cell) => (cell < (lookBytes * 2) / 3 ? 16 : 128));
  const pictureOf = Uint32Array.from(sourceOf, (frame) => (frame === null ? blackAt : (seen.pictureOf[frame] as number)));
  return {
    frames: sourceOf.length,
    pictureOf,
    repeats: Uint8Array.from(pictureOf, (picture, frame) => (frame > 0 && picture === pictureOf[frame - 1] ? REPEAT.exact : REPEAT.none)),
    pictures: looksOf([...allLooks(seen.pictures), black]),
    flats: new Map([...seen.flats, [blackAt, 'black']]),
    colours: seen.colours,
  };
}
