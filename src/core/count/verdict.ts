import type { FileCount } from '@/core/count/fileCount';
import type { PictureCount } from '@/core/count/pictureJudge';
import { type ComparedSound, decibelsText } from '@/core/count/soundCount';
import type { SoundPlan } from '@/core/render/soundPlan';
import { countText, plural } from '@/core/time/counts';
import { frameRangeWords } from '@/core/time/frameWords';
import { playsWords } from '@/core/time/heldTimes';
import { type Rate, rateFraction, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** What a loop was asked to be: the times of its pictures as its format counts them, how long it truly lasts, how far from that the format may be, and how often it is played (0 for ever). */
export type LoopRequest = {
  readonly microseconds: readonly number[];
  readonly trueMicroseconds: number;
  readonly toleranceMicroseconds: number;
  readonly plays: number;
};

/** What a handover was asked to write. */
export type HandoverRequest = {
  readonly frames: number;
  readonly rate: Rate;
  readonly width: number;
  readonly height: number;
  readonly firstNumber: number;
  /** Null where none was asked for. */
  readonly sound: SoundPlan | null;
  /** Null for all that is no loop. A loop's frames are its pictures. */
  readonly loop: LoopRequest | null;
};

/** What a receipt keeps of a file: what was counted in it, and what holding its pictures against those meant found. */
export type HandoverCount = Omit<FileCount, 'sound'> & PictureCount & { readonly sound: ComparedSound | null };

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

const ratesOf = ({ rate, otherRates }: HandoverCount): readonly Rate[] => (rate ? [rate, ...otherRates] : []);

function timeLines(asked: HandoverRequest, counted: HandoverCount): readonly ReceiptLine[] {
  if (!counted.hasTimes) return [];
  const rates = ratesOf(counted);
  const askedMicroseconds = (asked.frames * asked.rate.den * 1_000_000) / asked.rate.num;
  const { durationMicroseconds } = counted;
  const hasLength =
    durationMicroseconds !== null && Math.abs(askedMicroseconds - durationMicroseconds) <= counted.timeToleranceMicroseconds + 1;
  return [
    line(
      'rate',
      rateFraction(asked.rate),
      rates.length > 0 ? rates.map(rateFraction).join(' or ') : 'none',
      rates.some((rate) => sameRate(asked.rate, rate)),
    ),
    line(
      'length',
      `${secondsText(asked.frames, asked.rate)} s`,
      durationMicroseconds === null ? 'unknown' : secondsOf(durationMicroseconds),
      hasLength,
    ),
    line('frames on time', asked.frames, counted.frames - counted.mistimedFrames.length),
  ];
}

/** The pictures (from 0) of a loop that are not held as long as they were to be. */
function wrongTimes(asked: LoopRequest, counted: { readonly microseconds: readonly number[] }): readonly number[] {
  const all = Math.max(asked.microseconds.length, counted.microseconds.length);
  return Array.from({ length: all }, (_, place) => place).filter(
    (place) => !(Math.abs((asked.microseconds[place] ?? Number.NaN) - (counted.microseconds[place] ?? Number.NaN)) <= 1),
  );
}

const sumOf = (microseconds: readonly number[]): number => microseconds.reduce((sum, each) => sum + each, 0);

/** How long a loop lasts that was counted, and whether that is as long as was asked, as near as its format can tell. */
function loopLength(asked: LoopRequest, { microseconds }: { readonly microseconds: readonly number[] }) {
  const length = sumOf(microseconds);
  return { length, isLong: Math.abs(length - asked.trueMicroseconds) <= asked.toleranceMicroseconds };
}

/** How many frames a file that was counted shows at the rate asked for: of a loop, whose frames are its pictures, as many as its times come to. */
export function framesShown({ loop: asked, rate }: HandoverRequest, { loop: counted, frames }: HandoverCount): number {
  if (!asked || !counted) return frames;
  const { length, isLong } = loopLength(asked, counted);
  return Math.round(((isLong ? asked.trueMicroseconds : length) * rate.num) / (rate.den * 1_000_000));
}

function loopLines({ loop: asked }: HandoverRequest, { loop: counted, frames }: HandoverCount): readonly ReceiptLine[] {
  if (!asked && !counted) return [];
  if (!asked || !counted) return [line('loop', asked ? 'yes' : 'no', counted ? 'yes' : 'no', false)];
  const { length, isLong } = loopLength(asked, counted);
  return [
    line('length', secondsOf(asked.trueMicroseconds), secondsOf(length), isLong),
    line('pictures on time', asked.microseconds.length, frames - wrongTimes(asked, counted).length),
    line('played', playsWords(asked.plays), playsWords(counted.plays)),
  ];
}

/** What is said of a loop's times where they don't come out as asked. */
function loopSentences({ loop: asked }: HandoverRequest, { loop: counted }: HandoverCount): readonly string[] {
  if (!asked || !counted) return [];
  const wrong = wrongTimes(asked, counted);
  const named = frameRangeWords(wrong.map((place) => place + 1)).replace('frame', 'picture');
  return wrong.length === 0 ? [] : [`Not held as long as asked: ${named}.`];
}

function rateSentences(asked: HandoverRequest, counted: HandoverCount): readonly string[] {
  if (!counted.hasTimes) return [];
  const rates = ratesOf(counted);
  if (rates.length === 0) return ['The times of its frames fit no rate.'];
  if (!rates.some((rate) => sameRate(asked.rate, rate)))
    return [`Asked for ${rateFraction(asked.rate)} frames a second, the file says ${rates.map(rateFraction).join(' or ')}.`];
  return [];
}

const soundWords = ({ codec, channels }: Pick<SoundPlan, 'codec' | 'channels'>): string => `${codec}, ${channels} ch`;

/** Samples by which a sound of a coding may be longer or shorter than asked: it is coded so many at a time. */
const codedAtOnce = (codec: string): number => (codec === 'aac' ? 1024 : codec === 'opus' ? 960 : 0);

function soundLines({ sound: asked }: HandoverRequest, { sound: counted }: HandoverCount): readonly ReceiptLine[] {
  if (!asked && !counted) return [];
  if (!asked || !counted) return [line('sound', asked ? soundWords(asked) : 'none', counted ? soundWords(counted) : 'none', false)];
  const isLong = Math.abs(counted.samples - asked.samples) <= codedAtOnce(asked.codec);
  const { wrongFrames } = counted;
  return [
    line('sound', soundWords(asked), soundWords(counted)),
    line('samples a second', countText(asked.sampleRate), countText(counted.sampleRate)),
    line('samples', countText(asked.samples), countText(counted.samples), isLong),
    line('first sample', 0, counted.startSample),
    ...(wrongFrames === null ? [line('sound of frames', 'as mixed', 'not counted', false)] : [line('wrong sound', 0, wrongFrames.length)]),
  ];
}

function soundSentences({ sound: asked, firstNumber }: HandoverRequest, { sound: counted }: HandoverCount): readonly string[] {
  if (!asked || !counted) return [];
  if (counted.undecoded !== null)
    return [
      `The sound was not compared: this browser could not decode it (${counted.undecoded}). Count the file in another browser to be sure of it.`,
    ];
  if (!counted.wrongFrames || counted.wrongFrames.length === 0) return [];
  return [`Another sound than was mixed is heard on ${frameRangeWords(counted.wrongFrames.map((frame) => frame + firstNumber))}.`];
}

/** How the sound that was counted came out, where nothing is against it. */
function heardSentence({ sound: asked }: HandoverRequest, { sound: counted }: HandoverCount): readonly string[] {
  if (!asked || counted?.peak == null) return [];
  const apart = counted.samples - asked.samples;
  const by = `${plural(Math.abs(apart), 'sample')} ${apart > 0 ? 'longer' : 'shorter'} than the picture`;
  const length =
    apart === 0
      ? 'as long as the picture, to the sample'
      : Math.abs(apart) > codedAtOnce(asked.codec)
        ? by
        : `${by}, within what ${asked.codec} is coded in at a time`;
  return [`The sound is ${length}; its loudest sample is ${decibelsText(counted.peak)}.`];
}

function comparisonSentence(counted: HandoverCount): string {
  if (counted.comparison.kind === 'none')
    return `The pictures were not compared: this browser could not decode the film (${counted.comparison.reason}). The file was saved; count it in another browser to be sure of them.`;
  if (counted.comparison.kind === 'exact')
    return counted.loop?.colours != null
      ? 'Every picture was read back: pixel for pixel it is what the chosen colours make of the drawing.'
      : 'Every picture was read back and compared pixel for pixel.';
  const { toleranceLevels, largestLevels } = counted.comparison;
  const untellable =
    counted.untellableChanges === 0
      ? ''
      : ` ${plural(counted.untellableChanges, 'change')} from one drawing to the next ${counted.untellableChanges === 1 ? 'is' : 'are'} too small to be told apart in a film of this kind.`;
  const whileWriting = counted.comparison.whileWriting
    ? ' Each was decoded as it was written; the packets in the file are the very same, by their SHA-256.'
    : '';
  return `Every frame was decoded and compared with the picture meant: ${largestLevels.toFixed(2)} of 255 levels apart on average at most, ${toleranceLevels} allowed.${whileWriting}${untellable}`;
}

/** What is not as asked, each a sentence. */
function troubles(asked: HandoverRequest, counted: HandoverCount): readonly string[] {
  const sentences: string[] = [];
  const named = (frames: readonly number[]) => frameRangeWords(frames.map((frame) => frame + asked.firstNumber));
  const missing = asked.frames - counted.frames;
  if (counted.missingFrames.length > 0) sentences.push(`Not in the file: ${named(counted.missingFrames)}.`);
  else if (missing > 0) sentences.push(`${plural(missing, 'frame')} asked for ${missing === 1 ? 'is' : 'are'} not in the file.`);
  if (missing < 0) sentences.push(`The file holds ${plural(-missing, 'frame')} too many.`);
  sentences.push(...rateSentences(asked, counted));
  if (counted.hasTimes && counted.durationMicroseconds === null)
    sentences.push('The file doesn’t say how long its last frame lasts, so its length isn’t known.');
  if (counted.repeatFrames.length > 0)
    sentences.push(`The picture before is repeated, with no hold on the sheet, on ${named(counted.repeatFrames)}.`);
  if (counted.wrongFrames.length > 0) sentences.push(`Wrong picture on ${named(counted.wrongFrames)}.`);
  if (counted.mistimedFrames.length > 0) sentences.push(`Not on time: ${named(counted.mistimedFrames)}.`);
  sentences.push(...loopSentences(asked, counted), ...soundSentences(asked, counted));
  return sentences;
}

/** Holds what was asked against what was counted. It agrees only when every line does, and nothing is said against it. */
export function judge(asked: HandoverRequest, counted: HandoverCount): Verdict {
  const isWhole = counted.comparison.kind !== 'none' && !(asked.sound && counted.sound && counted.sound.wrongFrames === null);
  const isCompared = counted.comparison.kind !== 'none';
  const lines = [
    line(asked.loop ? 'pictures' : 'frames', asked.frames, counted.frames),
    ...timeLines(asked, counted),
    ...loopLines(asked, counted),
    line('size', `${asked.width} × ${asked.height}`, `${counted.width} × ${counted.height}`),
    ...(isCompared
      ? [
          line('right pictures', asked.frames, counted.frames - counted.wrongFrames.length),
          line('repeats*', 0, counted.repeatFrames.length),
        ]
      : [line('right pictures', asked.frames, 'not counted', false), line('repeats*', 0, 'not counted', false)]),
    ...soundLines(asked, counted),
  ];
  const against = troubles(asked, counted);
  const agrees = lines.every((entry) => entry.agrees) && against.length === 0;
  const sentences = agrees
    ? [`Agrees: ${plural(counted.frames, asked.loop ? 'picture' : 'frame')}, each there once, each the picture the sheet says.`]
    : [...against];
  if (counted.hasTimes && counted.otherRates.length > 0)
    sentences.push(
      `${plural(counted.frames, 'frame')} ${counted.frames === 1 ? 'is' : 'are'} too few to tell ${ratesOf(counted).map(rateFraction).join(' from ')}: the file’s times fit ${counted.otherRates.length === 1 ? 'both' : 'each of them'}.`,
    );
  sentences.push(comparisonSentence(counted), ...heardSentence(asked, counted));
  const repeats = counted.clipRepeatFrames.map((frame) => frame + asked.firstNumber);
  if (repeats.length > 0)
    sentences.push(`A clip shows the same picture twice in a row, as its own file does, on ${frameRangeWords(repeats)}.`);
  if (counted.colours !== null) sentences.push(`The file says its colours are ${counted.colours}.`);
  return { agrees, isWhole, lines, sentences };
}
