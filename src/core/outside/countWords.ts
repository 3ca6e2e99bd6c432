import { numberRanges } from '@/core/bring/fileOrder';
import type { OutsideCount } from '@/core/outside/outsideCount';
import { heldInPeriod, regularRepeats } from '@/core/outside/regular';
import { type FrameSpan, REPEAT, type SeenFrames, spansWhere } from '@/core/outside/seenFrames';
import { countText, plural } from '@/core/time/counts';
import { frameRangeWords } from '@/core/time/frameWords';
import { type Rate, rateFraction, rateName } from '@/core/time/rate';
import { stepName } from '@/core/words';

/** Microseconds as seconds to three places: `11.042 s`. */
export const secondsOfMicroseconds = (microseconds: number): string => `${(Math.round(microseconds / 1000) / 1000).toFixed(3)} s`;

/** A picture that stands at least so long is told, in seconds; most drawings that are held stand less. */
const FROZEN_SECONDS = 1;
/** Where a file has no rate a picture is told that stands for so many frames. */
const FROZEN_FRAMES = 24;
const MOST_NAMED = 6;

/** Frames that repeat the one before, each told apart: to the last bit, or but for coding. */
export type RepeatCount = { readonly exact: number; readonly near: number };

export function repeatsIn({ repeats }: SeenFrames): RepeatCount {
  let [exact, near] = [0, 0];
  for (const repeat of repeats) {
    if (repeat === REPEAT.exact) exact++;
    if (repeat === REPEAT.near) near++;
  }
  return { exact, near };
}

/** What is counted in a file: frames, or the pictures of a loop, each of which stands for a time of its own. */
type Piece = 'frame' | 'picture';
const pieceOf = ({ loop }: OutsideCount): Piece => (loop ? 'picture' : 'frame');

/** How repeats come: in a period, with the trade's word where it has one (common practice), or where they stand. */
function patternWords({ repeats }: SeenFrames, piece: Piece): string {
  // That one is held for two frames can be said of frames alone.
  const regular = piece === 'frame' ? regularRepeats(repeats) : null;
  if (!regular) {
    const frames: number[] = [];
    for (let frame = 0; frame < repeats.length; frame++) if (repeats[frame] !== REPEAT.none) frames.push(frame + 1);
    return `: ${frameRangeWords(frames, MOST_NAMED, 0, piece)}`;
  }
  const held = heldInPeriod(regular);
  const [first, second] = held;
  if (held.length === 1) return `: each picture is held for ${plural(first as number, 'frame')}, ${stepName(first as number)}`;
  if (held.length === 2 && held.includes(2) && held.includes(3)) return ': pictures are held for 2 and 3 frames in turn (2:3)';
  if (regular.repeats.filter(Boolean).length === 1) return `: one in ${regular.period}`;
  if (held.length === 2) return `: pictures are held for ${first} and ${second} frames in turn`;
  return `: ${regular.repeats.filter(Boolean).length} in ${regular.period}, always the same`;
}

/** Repeats as a sentence; null where there are none. */
function repeatSentence(seen: SeenFrames, piece: Piece): string | null {
  const { exact, near } = repeatsIn(seen);
  const all = exact + near;
  if (all === 0) return null;
  if (all === seen.frames - 1) return `All ${countText(seen.frames)} ${piece}s show ${piece === 'frame' ? 'one picture' : 'the same'}.`;
  const kinds = exact > 0 && near > 0 ? ` (${countText(exact)} to the last bit, ${countText(near)} nearly)` : near > 0 ? ' (nearly)' : '';
  return `${countText(all)} of ${plural(seen.frames, piece)} ${all === 1 ? 'repeats' : 'repeat'} the one before${kinds}${patternWords(seen, piece)}.`;
}

const spanWords =
  (piece: Piece) =>
  ({ startFrame, frames }: FrameSpan): string =>
    frames === 1 ? `${piece} ${startFrame + 1}` : `${piece}s ${startFrame + 1}–${startFrame + frames}`;

const listed = <T>(all: readonly T[], words: (one: T) => string): string =>
  all.slice(0, MOST_NAMED).map(words).join(', ') + (all.length > MOST_NAMED ? ` and ${plural(all.length - MOST_NAMED, 'more place')}` : '');

/** Stretches that show one picture for more than a frame, in frames from 0. */
const heldSpans = (seen: SeenFrames): readonly FrameSpan[] =>
  spansWhere(seen.frames, (frame) => seen.repeats[frame] !== REPEAT.none).map(({ startFrame, frames }) => ({
    startFrame: Math.max(0, startFrame - 1),
    frames: startFrame > 0 ? frames + 1 : frames,
  }));

/** Stretches that stand still for a second or more, in frames from 0. */
export function frozenSpans(seen: SeenFrames, rate: Rate | null): readonly FrameSpan[] {
  const least = rate ? Math.max(2, Math.ceil((FROZEN_SECONDS * rate.num) / rate.den)) : FROZEN_FRAMES;
  return heldSpans(seen).filter(({ frames }) => frames >= least);
}

/** Where a loop stands still for a second or more on pictures that are the same, each with how long, by the times of its pictures. */
function frozenInLoop(seen: SeenFrames, microseconds: readonly number[]): readonly { span: FrameSpan; seconds: number }[] {
  const timed = heldSpans(seen).map((span) => {
    const times = microseconds.slice(span.startFrame, span.startFrame + span.frames);
    return { span, seconds: times.reduce((sum, time) => sum + time, 0) / 1_000_000 };
  });
  return timed.filter(({ seconds }) => seconds >= FROZEN_SECONDS);
}

function stillSentences(seen: SeenFrames, { rate, loop }: OutsideCount, piece: Piece): readonly string[] {
  const out: string[] = [];
  const span = spanWords(piece);
  const frozen = loop
    ? frozenInLoop(seen, loop.microseconds)
    : frozenSpans(seen, rate).map((each) => ({ span: each, seconds: rate && (each.frames * rate.den) / rate.num }));
  const long = frozen
    .filter((each) => each.span.frames < seen.frames)
    .map((each) => `${span(each.span)} (${each.seconds === null ? `${each.span.frames} frames` : `${each.seconds.toFixed(1)} s`})`);
  if (long.length > 0) out.push(`Stands still on ${listed(long, (words) => words)}.`);
  for (const flat of ['black', 'white', 'one colour'] as const) {
    const spans = spansWhere(seen.frames, (frame) => seen.flats.get(seen.pictureOf[frame] as number) === flat);
    if (spans.length === 0) continue;
    const words = listed(spans, span);
    out.push(
      flat === 'one colour' ? `Blank, of one colour all over: ${words}.` : `${flat === 'black' ? 'Black' : 'White'} all over: ${words}.`,
    );
  }
  return out;
}

function timeSentences(count: OutsideCount): readonly string[] {
  if (count.kind !== 'film') return [];
  const out: string[] = [];
  if (!count.rate && count.frames > 1) out.push('Its frames fit no rate: they stand at times of their own.');
  else if (count.rate && count.mistimedFrames.length > 0)
    out.push(
      `Not of one rate: ${countText(count.mistimedFrames.length)} of ${plural(count.frames, 'frame')} are off their time by ${rateFraction(count.rate)}, ${frameRangeWords(count.mistimedFrames, MOST_NAMED, 1)}.`,
    );
  if (count.backwardFrames.length > 0)
    out.push(
      `Times go back: ${frameRangeWords(count.backwardFrames, MOST_NAMED, 1)} ${count.backwardFrames.length === 1 ? 'has' : 'have'} no later time than the one before.`,
    );
  if (count.otherRates.length > 0 && count.rate)
    out.push(`${plural(count.frames, 'frame')} are too few to tell ${[count.rate, ...count.otherRates].map(rateName).join(' from ')}.`);
  if (count.startMicroseconds !== null && count.startMicroseconds > 1000)
    out.push(`Its first frame is shown ${secondsOfMicroseconds(count.startMicroseconds)} after the beginning.`);
  return out;
}

/** Sound and picture are of one length when they part by less than this, in microseconds: less than half a frame at 24, and more than codecs pad with. */
const SAME_LENGTH_MICROSECONDS = 25_000;

function soundSentences({ sound, kind, durationMicroseconds, frames, rate }: OutsideCount): readonly string[] {
  if (!sound) return [];
  const out: string[] = [];
  const microseconds = ((sound.startSample + sound.samples) * 1_000_000) / sound.sampleRate;
  if (sound.startSample > 0 && kind !== 'sound')
    out.push(`The sound starts ${secondsOfMicroseconds((sound.startSample * 1_000_000) / sound.sampleRate)} after the beginning.`);
  const picture = durationMicroseconds ?? (rate ? (frames * rate.den * 1_000_000) / rate.num : null);
  if (kind !== 'sound' && picture !== null && Math.abs(microseconds - picture) > SAME_LENGTH_MICROSECONDS)
    out.push(
      `The sound ends ${secondsOfMicroseconds(Math.abs(microseconds - picture))} ${microseconds > picture ? 'after' : 'before'} the picture.`,
    );
  if (sound.undecoded !== null) out.push(`The sound could not be decoded: ${sound.undecoded}.`);
  return out;
}

function fileSentences({ sequence, otherSizes, width, height, unreadable, undecoded, kind }: OutsideCount): readonly string[] {
  const out: string[] = [];
  if (sequence && sequence.missing.length > 0)
    out.push(
      `${sequence.missing.length === 1 ? 'Number' : 'Numbers'} ${numberRanges(sequence.missing)} ${sequence.missing.length === 1 ? 'is' : 'are'} missing.`,
    );
  if (sequence && sequence.twice.length > 0) out.push(`There are two files of number ${numberRanges(sequence.twice)}.`);
  if (otherSizes.length > 0)
    out.push(
      `Not of one size: ${width} × ${height} first, ${otherSizes.map((size) => `${size.width} × ${size.height} on ${plural(size.frames, 'picture')}`).join(', ')}.`,
    );
  if (unreadable.length > 0)
    out.push(`${plural(unreadable.length, 'file')} could not be read: ${listed(unreadable, ({ name, reason }) => `${name} (${reason})`)}.`);
  if (undecoded !== null && kind !== 'sound')
    out.push(`Its pictures could not be looked at: ${undecoded}. Its frames were counted by its own list.`);
  return out;
}

/** What is to be said of a file by itself, each a sentence; what is odd about the file comes first. `seen` is null where its pictures were not looked at. */
export function countSentences(count: OutsideCount, seen: SeenFrames | null): readonly string[] {
  const repeats = seen && repeatSentence(seen, pieceOf(count));
  return [
    ...count.notes,
    ...fileSentences(count),
    ...timeSentences(count),
    ...soundSentences(count),
    ...(repeats ? [repeats] : []),
    ...(seen ? stillSentences(seen, count, pieceOf(count)) : []),
  ];
}

/** What a file is, in a line: `265 fr · 24/1 · 11.042 s · 1280 × 720`. */
export function countLine(count: OutsideCount): string {
  const parts: string[] = [];
  if (count.kind !== 'sound')
    parts.push(count.kind === 'pictures' || count.kind === 'loop' ? plural(count.frames, 'picture') : `${countText(count.frames)} fr`);
  if (count.sequence) parts.push(`${count.sequence.firstNumber}–${count.sequence.lastNumber}`);
  if (count.rate) parts.push(rateFraction(count.rate));
  else if (count.kind === 'film') parts.push('no one rate');
  if (count.durationMicroseconds !== null) parts.push(secondsOfMicroseconds(count.durationMicroseconds));
  if (count.width > 0) parts.push(`${count.width} × ${count.height}`);
  if (count.sound) parts.push(`sound ${secondsOfMicroseconds((count.sound.samples * 1_000_000) / count.sound.sampleRate)}`);
  return parts.join(' · ');
}
