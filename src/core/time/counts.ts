import { done, type Outcome, refused } from '@/core/outcome';
import { footageOf, footageText, framesOfFootage } from '@/core/time/footage';
import { nominalRate, type Rate, rateFraction, rateName } from '@/core/time/rate';
import { isExactInThousandths, secondsText } from '@/core/time/seconds';
import { frameOfTimecode, hasDropFrame, timecodeOf } from '@/core/time/timecode';

/** Longest shot that can be planned, in frames (inclusive): over eleven hours at 24. */
export const LONGEST_SHOT_FRAMES = 1_000_000;

/** One moment in every count at once. `frame` is the number shown, from the project's first frame number. */
export type MomentCounts = {
  readonly frame: number;
  readonly seconds: string;
  readonly timecode: string;
  readonly footage: string;
};

/**
 * Every count of the moment frame `frameIndex` (from 0) starts.
 * Timecode is drop-frame where the rate has it, since that is the one that keeps up with the clock.
 */
export function countsOfMoment(frameIndex: number, rate: Rate, startFrame: number): MomentCounts {
  const { feet, frames } = footageOf(frameIndex);
  return {
    frame: frameIndex + startFrame,
    seconds: secondsText(frameIndex, rate),
    timecode: timecodeOf(frameIndex, rate, hasDropFrame(rate)),
    footage: `${feet} ft ${frames} fr`,
  };
}

const grouped = (value: number) => String(value).replace(/\B(?=(\d{3})+$)/g, ',');

/** A number with its thousands parted: `1,530`. */
export const countText = grouped;

/** A count with its noun: `1 frame`, `1,530 frames`. */
export const plural = (count: number, noun: string, many = `${noun}s`): string => `${grouped(count)} ${count === 1 ? noun : many}`;

/** A length in the plainest full form: `1,530 frames at 30 = 51 s exactly`, or `about 41.583 s`. */
export function lengthSentence(frames: number, rate: Rate): string {
  const exact = isExactInThousandths(frames, rate);
  const seconds = secondsText(frames, rate);
  const shown = exact ? seconds.replace(/\.?0+$/, '') : seconds;
  return `${plural(frames, 'frame')} at ${rateName(rate)} = ${exact ? `${shown} s exactly` : `about ${shown} s`}`;
}

/** A length in every count: what was understood, shown back. */
export const lengthCounts = (frames: number, rate: Rate) => ({
  frames,
  seconds: secondsText(frames, rate),
  timecode: timecodeOf(frames, rate, hasDropFrame(rate)),
  footage: footageText(frames),
  rate: rateFraction(rate),
});

/**
 * Reads a length as people write it, and as it is shown: `96` (frames), `4s`, `4s12` (seconds and frames), `1.250 s`,
 * `00:00:04:00` (timecode), `6+00` and `1 ft 14 fr` (feet and frames of 35 mm). Whole seconds count the rate's whole
 * number of frames, as timecode does; where the rate has no timecode they are the time itself. Refuses 0 and lengths over LONGEST_SHOT_FRAMES.
 */
export function parseLength(text: string, rate: Rate): Outcome<number> {
  const trimmed = withoutGrouping(text);
  const frames = readFrames(trimmed, text, rate);
  if (!frames.ok) return frames;
  return checkLength(frames.value);
}

/**
 * Reads a moment as people write it, as the frame that starts then (from 0): a frame's number as shown
 * (from `startFrame`), or seconds, timecode or footage since the beginning. Refuses what lies before it.
 */
export function parseMoment(text: string, rate: Rate, startFrame: number): Outcome<number> {
  const trimmed = withoutGrouping(text);
  if (!/^\d{1,9}$/.test(trimmed)) return readFrames(trimmed, text, rate);
  const frame = Number(trimmed) - startFrame;
  return frame >= 0 ? done(frame) : refused(`There is no frame ${trimmed}: the first one is ${startFrame}.`);
}

/** `1,530` as it is shown is 1530; a comma anywhere else is left, and refused by whoever reads. Spaces of any kind part words. */
function withoutGrouping(text: string): string {
  const trimmed = text.trim().replace(/\s+/gu, ' ');
  return /^\d{1,3}(,\d{3})+$/.test(trimmed) ? trimmed.replaceAll(',', '') : trimmed;
}

/** The length itself when a shot can have it, else why not. */
export function checkLength(frames: number): Outcome<number> {
  if (!Number.isInteger(frames) || frames < 1 || frames > LONGEST_SHOT_FRAMES) {
    return refused(`A length of ${frames} frames can't be: a shot has from 1 to ${grouped(LONGEST_SHOT_FRAMES)} frames.`);
  }
  return done(frames);
}

/** Timecode counts whole frames a second, also at the thousandth less of the video rates; at 12.5 there is none. */
const hasTimecode = (rate: Rate): boolean => rate.den === 1 || rate.den === 1001;

function framesOfWholeSeconds(seconds: number, extra: number, original: string, rate: Rate): Outcome<number> {
  const frames = (seconds * rate.num) / rate.den;
  if (Number.isInteger(frames)) return done(frames + extra);
  return refused(`“${original}” is ${frames.toFixed(2)} frames at ${rateName(rate)}: write how many frames it is to be.`);
}

/** The frame whose start is shown as these seconds; a time between two frames is refused with both. */
function framesOfDecimal(seconds: string, original: string, rate: Rate): Outcome<number> {
  const frame = Math.round((Number(seconds) * rate.num) / rate.den);
  if (secondsText(frame, rate) === seconds) return done(frame);
  const before = Number(secondsText(frame, rate)) < Number(seconds) ? frame : frame - 1;
  return refused(
    `“${original}” lies between ${plural(before, 'frame')} (${secondsText(before, rate)} s) and ${before + 1} (${secondsText(before + 1, rate)} s) at ${rateName(rate)}: write one of them.`,
  );
}

function readFrames(trimmed: string, original: string, rate: Rate): Outcome<number> {
  if (/^\d{1,9}$/.test(trimmed)) return done(Number(trimmed));
  const decimal = /^(\d{1,6})\.(\d{1,3})\s*s$/i.exec(trimmed);
  if (decimal) return framesOfDecimal(`${decimal[1]}.${(decimal[2] as string).padEnd(3, '0')}`, original, rate);
  const feet = /^(\d{1,6})\s*ft(?:\s*(\d{1,2})\s*fr)?$/i.exec(trimmed);
  if (feet) return framesOfFootage(`${feet[1]}+${(feet[2] ?? '0').padStart(2, '0')}`);
  const seconds = /^(\d{1,6})\s*s(?:\s*(\d{1,3}))?$/i.exec(trimmed);
  if (seconds) {
    const perSecond = nominalRate(rate);
    const extra = Number(seconds[2] ?? 0);
    if (!hasTimecode(rate)) return framesOfWholeSeconds(Number(seconds[1]), extra, original, rate);
    if (extra >= perSecond) {
      return refused(`“${original}” has ${extra} frames after the seconds; at ${rateName(rate)} a second holds ${perSecond}.`);
    }
    return done(Number(seconds[1]) * perSecond + extra);
  }
  if (trimmed.includes(':')) return frameOfTimecode(trimmed, rate);
  if (trimmed.includes('+')) return framesOfFootage(trimmed);
  return refused(`“${original}” can't be read: write frames as 96, seconds as 4s or 4s12, timecode as 00:00:04:00, or feet as 6+00.`);
}
