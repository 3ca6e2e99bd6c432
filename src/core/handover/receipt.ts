import { frameRangeWords } from '@/core/handover/frameWords';
import { plural } from '@/core/time/counts';
import { type Rate, rateFraction, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** What a handover was asked to write. */
export type Asked = {
  readonly frames: number;
  readonly rate: Rate;
  readonly width: number;
  readonly height: number;
  readonly firstNumber: number;
};

/**
 * What was found by opening the written file again. Frames are counted from 0 in the file.
 * `rate` is null for picture files, which carry none. `durationMicroseconds` is the end of the last
 * frame as the file says it; `timeToleranceMicroseconds` is how finely its container counts time.
 * A frame is wrong when its picture is not the one meant.
 */
export type Counted = {
  readonly frames: number;
  readonly rate: Rate | null;
  readonly durationMicroseconds: number | null;
  readonly timeToleranceMicroseconds: number;
  readonly width: number;
  readonly height: number;
  readonly repeatFrames: readonly number[];
  readonly wrongFrames: readonly number[];
  readonly mistimedFrames: readonly number[];
  readonly untellableChanges: number;
  readonly comparison:
    | { readonly kind: 'exact' }
    | { readonly kind: 'within'; readonly toleranceLevels: number; readonly largestLevels: number }
    /** The pictures could not be decoded where the file was counted, and so were not compared. */
    | { readonly kind: 'none'; readonly reason: string };
};

/** One line of a receipt: what was asked beside what was counted. */
export type ReceiptLine = { readonly what: string; readonly asked: string; readonly counted: string; readonly agrees: boolean };

/** Asked held against counted, with the verdict in plain sentences. `isWhole` is false when something could not be counted: then it never agrees. */
export type Verdict = {
  readonly agrees: boolean;
  readonly isWhole: boolean;
  readonly lines: readonly ReceiptLine[];
  readonly sentences: readonly string[];
};

const line = (what: string, asked: string | number, counted: string | number, agrees = asked === counted): ReceiptLine => ({
  what,
  asked: String(asked),
  counted: String(counted),
  agrees,
});

const secondsOf = (microseconds: number) => `${(Math.round(microseconds / 1000) / 1000).toFixed(3)} s`;

function timeLines(asked: Asked, counted: Counted): readonly ReceiptLine[] {
  if (counted.rate === null || counted.durationMicroseconds === null) return [];
  const askedMicroseconds = (asked.frames * asked.rate.den * 1_000_000) / asked.rate.num;
  const length = Math.abs(askedMicroseconds - counted.durationMicroseconds) <= counted.timeToleranceMicroseconds + 1;
  return [
    line('rate', rateFraction(asked.rate), rateFraction(counted.rate), sameRate(asked.rate, counted.rate)),
    line('length', `${secondsText(asked.frames, asked.rate)} s`, secondsOf(counted.durationMicroseconds), length),
    line('frames on time', asked.frames, counted.frames - counted.mistimedFrames.length),
  ];
}

function comparisonSentence(counted: Counted): string {
  if (counted.comparison.kind === 'none')
    return `The pictures were not compared: this browser could not decode the film (${counted.comparison.reason}). The file was saved; count it in another browser to be sure of them.`;
  if (counted.comparison.kind === 'exact') return 'Every picture was read back and compared pixel for pixel.';
  const { toleranceLevels, largestLevels } = counted.comparison;
  const untellable =
    counted.untellableChanges === 0
      ? ''
      : ` ${plural(counted.untellableChanges, 'change')} from one drawing to the next ${counted.untellableChanges === 1 ? 'is' : 'are'} too small to be told apart in a film of this kind.`;
  return `Every frame was decoded and compared with the picture meant: ${largestLevels.toFixed(2)} of 255 levels apart on average at most, ${toleranceLevels} allowed.${untellable}`;
}

/** Holds what was asked against what was counted. It agrees only when every line does. */
export function judge(asked: Asked, counted: Counted): Verdict {
  const isWhole = counted.comparison.kind !== 'none';
  const lines = [
    line('frames', asked.frames, counted.frames),
    ...timeLines(asked, counted),
    line('size', `${asked.width} × ${asked.height}`, `${counted.width} × ${counted.height}`),
    ...(isWhole
      ? [
          line('right pictures', asked.frames, counted.frames - counted.wrongFrames.length),
          line('repeats*', 0, counted.repeatFrames.length),
        ]
      : [line('right pictures', asked.frames, 'not counted', false), line('repeats*', 0, 'not counted', false)]),
  ];
  const agrees = lines.every((entry) => entry.agrees);
  const sentences: string[] = [];
  if (agrees) sentences.push(`Agrees: ${plural(counted.frames, 'frame')}, each there once, each the picture the sheet asks for.`);
  if (counted.frames !== asked.frames) {
    const missing = asked.frames - counted.frames;
    sentences.push(
      missing > 0
        ? `${plural(missing, 'frame')} asked for ${missing === 1 ? 'is' : 'are'} not in the file.`
        : `The file holds ${plural(-missing, 'frame')} too many.`,
    );
  }
  if (counted.rate && !sameRate(asked.rate, counted.rate))
    sentences.push(`Asked for ${rateFraction(asked.rate)} frames a second, the file says ${rateFraction(counted.rate)}.`);
  const named = (frames: readonly number[]) => frameRangeWords(frames.map((frame) => frame + asked.firstNumber));
  if (counted.repeatFrames.length > 0)
    sentences.push(`The picture before is repeated, with no hold on the sheet, on ${named(counted.repeatFrames)}.`);
  if (counted.wrongFrames.length > 0) sentences.push(`Not the picture meant on ${named(counted.wrongFrames)}.`);
  if (counted.mistimedFrames.length > 0) sentences.push(`Not at its time: ${named(counted.mistimedFrames)}.`);
  sentences.push(comparisonSentence(counted));
  return { agrees, isWhole, lines, sentences };
}
