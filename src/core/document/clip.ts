import { done, type Outcome, refused } from '@/core/outcome';
import { remembered } from '@/core/remembered';
import type { Rate } from '@/core/time/rate';

/** Whether every frame of a clip is one of the film's, or the clip keeps its time. */
export type ClipReading = 'readAs' | 'converted';

/** Frames one after another that are shown equally long. */
export type ClipSpan = { readonly frames: number; readonly microseconds: number };

/** When a clip's frames are shown: all equally long, or as its file says of each. */
export type ClipTiming =
  | { readonly kind: 'constant'; readonly rate: Rate }
  | { readonly kind: 'variable'; readonly spans: readonly ClipSpan[] };

/**
 * A clip as it was brought in: the SHA-256 of its file's bytes, and what was counted in it. Its frames count from 0 in the
 * order they are shown; it starts with the first, at `startMicroseconds` of its file.
 */
export type Clip = {
  readonly original: string;
  readonly fileName: string;
  readonly size: { readonly width: number; readonly height: number };
  readonly frames: number;
  readonly startMicroseconds: number;
  readonly timing: ClipTiming;
};

/** Most frames of a clip. */
export const MOST_CLIP_FRAMES = 2_000_000;
/** Longest clip, as long as a reel can be. */
export const LONGEST_CLIP_HOURS = 10;
/** Most changes of pace of a clip whose frames are not equally long. */
export const MOST_CLIP_SPANS = 20_000;

const LONGEST_MICROSECONDS = LONGEST_CLIP_HOURS * 3600 * 1e6;

/** How long a clip lasts, in microseconds, half up. */
export const microsecondsOfClip = ({ frames, timing }: Clip): number =>
  timing.kind === 'constant'
    ? Math.floor((2 * frames * timing.rate.den * 1e6 + timing.rate.num) / (2 * timing.rate.num))
    : timing.spans.reduce((sum, span) => sum + span.frames * span.microseconds, 0);

/** Refuses a clip that can't be what it says. */
export function checkClip(clip: Clip): Outcome<Clip> {
  const { fileName, frames, timing } = clip;
  if (!Number.isInteger(frames) || frames < 1 || frames > MOST_CLIP_FRAMES)
    return refused(`${fileName} can’t be used: a clip has 1 to ${MOST_CLIP_FRAMES.toLocaleString('en')} frames.`);
  if (timing.kind === 'variable') {
    if (timing.spans.length > MOST_CLIP_SPANS)
      return refused(
        `${fileName} can’t be used: its frames change their length too often (over ${MOST_CLIP_SPANS.toLocaleString('en')} times).`,
      );
    if (timing.spans.reduce((sum, span) => sum + span.frames, 0) !== frames)
      return refused(`${fileName} can’t be used: its times are not those of its ${frames} frames.`);
  }
  return microsecondsOfClip(clip) <= LONGEST_MICROSECONDS
    ? done(clip)
    : refused(`${fileName} is longer than ${LONGEST_CLIP_HOURS} hours, which is the most: cut it first.`);
}

/*
 * Frame k of the film starts k·d/n seconds in. Keeping its time, a clip lasts T seconds and covers round(T·n/d) frames of
 * the film, half up, one at least. What is shown on each is what the clip shows at the middle of that frame, so that neither
 * its first nor its last is favoured: of a constant rate c, frame floor((k + ½)·c·d/n).
 * All products are whole and below 2^53: 2 · 2·10^6 frames · 1001 · 60,000 = 2.4·10^14; 2 · 3.6·10^10 µs · 60,000 = 4.3·10^15.
 */

/** How many frames of a film at `rate` a clip covers. */
export function framesOfClip(clip: Clip, way: ClipReading, rate: Rate): number {
  if (way === 'readAs') return clip.frames;
  const { timing, frames } = clip;
  if (timing.kind === 'variable') {
    const unit = rate.den * 1e6;
    return Math.max(1, Math.floor((2 * microsecondsOfClip(clip) * rate.num + unit) / (2 * unit)));
  }
  const unit = timing.rate.num * rate.den;
  return Math.max(1, Math.floor((2 * frames * timing.rate.den * rate.num + unit) / (2 * unit)));
}

/** The first frame and the first microsecond of every span, from 0, and last where all of them end. */
const startsOf = remembered((spans: readonly ClipSpan[]) => {
  const [frames, microseconds] = [new Float64Array(spans.length + 1), new Float64Array(spans.length + 1)];
  spans.forEach((span, index) => {
    frames[index + 1] = (frames[index] as number) + span.frames;
    microseconds[index + 1] = (microseconds[index] as number) + span.frames * span.microseconds;
  });
  return { frames, microseconds };
});

/** The index of the span that holds a value, among where they start; the last when it is past all of them. Found by halving. */
function spanAt(starts: Float64Array, value: number): number {
  let [low, high] = [0, starts.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((starts[middle] as number) <= value) low = middle;
    else high = middle;
  }
  return low;
}

/** The frame of a clip (from 0) whose time holds a moment, in microseconds from the clip's beginning. */
function frameAtMicroseconds(spans: readonly ClipSpan[], microseconds: number): number {
  const starts = startsOf(spans);
  const index = spanAt(starts.microseconds, microseconds);
  const within = Math.floor((microseconds - (starts.microseconds[index] as number)) / (spans[index] as ClipSpan).microseconds);
  return (starts.frames[index] as number) + within;
}

/** Which of its frames (from 0) a clip shows on its frame `frame` (from 0) in a film at `rate`. */
export function clipFrameAt(clip: Clip, way: ClipReading, rate: Rate, frame: number): number {
  if (way === 'readAs') return frame;
  const { timing } = clip;
  const shown =
    timing.kind === 'constant'
      ? Math.floor(((2 * frame + 1) * timing.rate.num * rate.den) / (2 * timing.rate.den * rate.num))
      : frameAtMicroseconds(timing.spans, ((2 * frame + 1) * rate.den * 1e6) / (2 * rate.num));
  return Math.min(shown, clip.frames - 1);
}

/** The middle of the time a clip's file shows a frame (from 0), in whole microseconds from the file's beginning: what to ask a decoder for. */
export function microsecondsOfFrame({ timing, startMicroseconds }: Clip, frame: number): number {
  if (timing.kind === 'constant') return startMicroseconds + Math.floor(((2 * frame + 1) * timing.rate.den * 1e6) / (2 * timing.rate.num));
  const starts = startsOf(timing.spans);
  const index = spanAt(starts.frames, frame);
  const within = Math.floor(((2 * (frame - (starts.frames[index] as number)) + 1) * (timing.spans[index] as ClipSpan).microseconds) / 2);
  return startMicroseconds + (starts.microseconds[index] as number) + within;
}

/** Frames of a clip (from 0) that are shown more than once, and those that are passed over, where it keeps its time in a film at `rate`. */
export function conversionOf(clip: Clip, rate: Rate): { readonly repeated: readonly number[]; readonly passedOver: readonly number[] } {
  const repeated: number[] = [];
  const passedOver: number[] = [];
  const frames = framesOfClip(clip, 'converted', rate);
  let before = -1;
  for (let frame = 0; frame < frames; frame++) {
    const shown = clipFrameAt(clip, 'converted', rate, frame);
    if (shown === before && repeated.at(-1) !== shown) repeated.push(shown);
    for (let passed = before + 1; passed < shown; passed++) passedOver.push(passed);
    before = shown;
  }
  for (let passed = before + 1; passed < clip.frames; passed++) passedOver.push(passed);
  return { repeated, passedOver };
}
