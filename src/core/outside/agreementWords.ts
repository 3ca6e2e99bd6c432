import type { ReceiptLine } from '@/core/count/verdict';
import type { Size } from '@/core/document/model';
import { type Beside, NOTHING_BESIDE } from '@/core/outside/agreement';
import { secondsOfMicroseconds } from '@/core/outside/countWords';
import type { Fault } from '@/core/outside/faults';
import type { ColourReading, Flat } from '@/core/outside/look';
import { loopTickMicroseconds } from '@/core/outside/loopFrames';
import type { OutsideCount } from '@/core/outside/outsideCount';
import { LOUDNESS_A_SECOND } from '@/core/outside/soundShift';
import { type Stepped, steppedWords } from '@/core/outside/stepping';
import { countText, plural } from '@/core/time/counts';
import { frameRangeWords, framesInWords } from '@/core/time/frameWords';
import { type Rate, rateFraction, rateName, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** What a file is held against: a plan of ours, or another file. `firstNumber` is the number its first frame bears. */
export type HeldAgainst = {
  readonly name: string;
  readonly frames: number;
  readonly firstNumber: number;
  /** Null where it has none, as pictures have. */
  readonly rate: Rate | null;
  readonly size: Size;
  /** Null where it has none, or where that isn't known. */
  readonly soundMicroseconds: number | null;
  /** Whether it is only the drawings of something that has a background as well. */
  readonly isDrawingsAlone?: boolean;
};

/** How a file agrees with what it was held against: one sentence that says what is wrong, more that say the rest, and the figures. */
export type Agreement = {
  readonly agrees: boolean;
  readonly headline: string;
  readonly sentences: readonly string[];
  readonly lines: readonly ReceiptLine[];
};

const MOST_SENTENCES = 12;

const FLAT_WORDS: Readonly<Record<Flat, string>> = { black: 'black ', white: 'white ', 'one colour': 'blank ' };
const isOrAre = (frames: number) => (frames === 1 ? 'is' : 'are');
const nFrames = (frames: number) => (frames === 1 ? 'one frame' : plural(frames, 'frame'));
const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** Sentences about one file beside what it is held against. */
class Words {
  constructor(
    private readonly plan: HeldAgainst,
    private readonly file: OutsideCount,
    private readonly beside: Beside,
  ) {}

  private planFrames(frame: number, frames: number): string {
    return framesInWords(frame, frame + frames - 1, this.plan.firstNumber);
  }

  /** How many of the file's frames stand before its end after a fault. */
  private isAtEnd({ fileFrame, frames, kind }: Fault): boolean {
    return kind === 'missing' ? fileFrame >= this.file.frames : fileFrame + frames >= this.file.frames;
  }

  /** What a fault is, without what follows from it: `frame 32 is there twice`. */
  cause(fault: Fault): string {
    const { planFrame, frames } = fault;
    switch (fault.kind) {
      case 'twice':
        return frames === 1
          ? `${this.planFrames(planFrame, 1)} is there twice`
          : `${this.planFrames(planFrame, 1)} is there ${frames + 1} times`;
      case 'missing':
        return `${this.planFrames(planFrame, frames)} ${isOrAre(frames)} missing`;
      case 'swapped':
        return `frames ${planFrame + this.plan.firstNumber} and ${planFrame + 1 + this.plan.firstNumber} have changed places`;
      case 'extra': {
        const what = fault.flat
          ? `${frames === 1 ? 'a' : frames} ${FLAT_WORDS[fault.flat]}${frames === 1 ? 'frame' : 'frames'}`
          : fault.shows === null
            ? `${frames === 1 ? 'a frame that is' : `${frames} frames that are`} not of the plan`
            : `${this.planFrames(fault.shows, frames)} once more`;
        const stands = frames === 1 || fault.shows !== null ? 'stands' : 'stand';
        return planFrame >= this.plan.frames
          ? `${what} ${stands} after the last`
          : `${what} ${stands} before ${this.planFrames(planFrame, 1)}`;
      }
      case 'other': {
        const where = this.planFrames(planFrame, frames);
        if (fault.flat) return `${where} ${isOrAre(frames)} ${FLAT_WORDS[fault.flat].trim()}`;
        const show = frames === 1 ? 'shows' : 'show';
        if (fault.shows === null) return `${where} ${show} another picture than planned`;
        const isHeld = fault.shows < planFrame && fault.shows + frames > planFrame;
        return `${where} ${show} ${isHeld || frames > 1 ? 'the pictures' : 'the picture'} of ${this.planFrames(fault.shows, isHeld ? 1 : frames)}`;
      }
    }
  }

  /** By how many frames a fault moves what comes after it. */
  private moves({ kind, frames }: Fault): number {
    return kind === 'twice' || kind === 'extra' ? frames : kind === 'missing' ? -frames : 0;
  }

  /** A fault as a sentence of its own, with what follows from it up to the next that moves anything. */
  sentence(fault: Fault, movedBefore: number): string {
    const moved = movedBefore + this.moves(fault);
    const cause = this.cause(fault);
    if (this.moves(fault) === 0) return `${capital(cause)}.`;
    if (this.isAtEnd(fault)) {
      if (fault.kind === 'missing')
        return `The last ${fault.frames === 1 ? 'frame is' : `${fault.frames} frames are`} missing: the file ends with ${this.planFrames(fault.planFrame - 1, 1)}.`;
      return `The file goes on for ${nFrames(fault.frames)} after the plan’s last: ${cause}.`;
    }
    const from = fault.fileFrame + (fault.kind === 'missing' ? 0 : fault.kind === 'extra' ? fault.frames : 0);
    if (moved === 0) return `From frame ${from + this.plan.firstNumber} on everything is in its place again: ${cause}.`;
    const late = `${nFrames(Math.abs(moved))} ${moved > 0 ? 'late' : 'early'}`;
    const isFromFirst = from === 0 || (fault.kind === 'extra' && fault.planFrame === 0);
    return `${isFromFirst ? 'Everything' : `From frame ${from + this.plan.firstNumber} on everything`} is ${late}: ${cause}.`;
  }

  sentences(): readonly string[] {
    let moved = 0;
    const out = this.beside.faults.slice(0, MOST_SENTENCES).map((fault) => {
      const words = this.sentence(fault, moved);
      moved += this.moves(fault);
      return words;
    });
    const more = this.beside.faults.length - out.length;
    return more > 0 ? [...out, `There ${isOrAre(more)} ${more} more ${more === 1 ? 'place' : 'places'} like these.`] : out;
  }

  /** How many frames of each kind are wrong: `3 frames are missing, 2 are there twice`. */
  private summary(): string {
    const frames = (...kinds: readonly Fault['kind'][]) =>
      this.beside.faults.filter(({ kind }) => kinds.includes(kind)).reduce((sum, fault) => sum + fault.frames, 0);
    const parts: [number, string, string][] = [
      [frames('missing'), 'is missing', 'are missing'],
      [frames('twice'), 'is there twice', 'are there twice'],
      [frames('extra'), 'is not of the plan', 'are not of the plan'],
      [frames('other'), 'shows another picture', 'show another picture'],
      [frames('swapped'), 'has changed places', 'have changed places'],
    ];
    const said = parts.filter(([count]) => count > 0);
    return `${said.map(([count, one, more], index) => `${index === 0 ? plural(count, 'frame') : count} ${count === 1 ? one : more}`).join(', ')}.`;
  }

  /** A part that stands elsewhere than planned, where that is all that is wrong; null where it is not. */
  private movedPart(): string | null {
    const [first, second, third] = this.beside.faults;
    if (!first || !second || third) return null;
    const extra = [first, second].find((fault) => fault.kind === 'extra');
    const missing = [first, second].find((fault) => fault.kind === 'missing');
    if (!extra || !missing || !('shows' in extra) || extra.frames !== missing.frames) return null;
    if (extra.shows === null || extra.shows !== missing.planFrame) return null;
    const { planFrame, frames } = missing;
    const place = extra.planFrame >= this.plan.frames ? 'after the last' : `before ${this.planFrames(extra.planFrame, 1)}`;
    return `${capital(this.planFrames(planFrame, frames))} ${frames === 1 ? 'stands' : 'stand'} in another place than planned: ${place}.`;
  }

  /** Whether one sentence says all that is wrong with the pictures. */
  get isOneSentence(): boolean {
    const { faults, stepped } = this.beside;
    if (faults.length < 2 || stepped || this.movedPart()) return true;
    const [first, second] = faults as readonly [Fault, Fault];
    return faults.length === 2 && this.moves(first) !== 0 && this.moves(first) === -this.moves(second) && !this.isAtEnd(second);
  }

  stepped(stepped: Stepped): string {
    const isRepeat = stepped.kind === 'repeats';
    const every = isRepeat
      ? `One frame in ${stepped.every} repeats the one before (${countText(stepped.times)} in all)`
      : `One frame of the plan in ${stepped.every} is missing (${countText(stepped.times)} in all)`;
    return `${every}: ${steppedWords(stepped)}.`;
  }

  /** What is wrong with the pictures, in one sentence; null when nothing is. */
  pictures(): string | null {
    const { alignment, multiple, faults, stepped } = this.beside;
    if (multiple !== null)
      return multiple > 1
        ? `Every frame of the plan is there ${Math.round(multiple)} times.`
        : `Only one frame of the plan in ${Math.round(1 / multiple)} is there.`;
    if (!alignment) return 'The pictures have little to do with the plan’s: their frames can’t be laid beside each other.';
    const [first, second] = faults;
    if (!first) return null;
    if (stepped) return this.stepped(stepped);
    if (faults.length === 1) return this.sentence(first, 0);
    const part = this.movedPart();
    if (part) return part;
    if (faults.length === 2 && second && this.moves(first) !== 0 && this.moves(first) === -this.moves(second) && !this.isAtEnd(second)) {
      const to = second.fileFrame - 1 + this.plan.firstNumber;
      const [from] = this.sentence(first, 0).split(' on everything');
      const late = `${nFrames(Math.abs(this.moves(first)))} ${this.moves(first) > 0 ? 'late' : 'early'}`;
      return `${from?.startsWith('From') ? from : `From frame ${this.plan.firstNumber}`} to ${to} everything is ${late}: ${this.cause(first)}, ${this.cause(second)}.`;
    }
    return this.summary();
  }
}

/** Another rate than planned, with what it makes of the length; null when it is the same, or neither is known. */
function rateSentence(plan: HeldAgainst, file: OutsideCount): string | null {
  if (!plan.rate || !file.rate || sameRate(plan.rate, file.rate)) return null;
  if ([file.rate, ...file.otherRates].some((rate) => sameRate(rate, plan.rate as Rate))) return null;
  const planSeconds = secondsText(plan.frames, plan.rate);
  const fileSeconds = secondsText(file.frames, file.rate);
  const length = planSeconds === fileSeconds ? `it lasts ${planSeconds} s all the same` : `${planSeconds} s become ${fileSeconds} s`;
  return `${rateName(plan.rate)} a second ${file.frames === plan.frames ? 'read as' : 'became'} ${rateName(file.rate)}: ${length}.`;
}

function otherSentences(plan: HeldAgainst, file: OutsideCount, reading: ColourReading, soundShiftSteps: number | null): readonly string[] {
  const out: string[] = [];
  const { size } = plan;
  if (file.width > 0 && (file.width !== size.width || file.height !== size.height)) {
    const isShape = Math.abs(file.width * size.height - file.height * size.width) > Math.max(file.width, size.width);
    out.push(
      `The file’s pictures are ${file.width} × ${file.height}, the plan’s ${size.width} × ${size.height}${isShape ? ': another shape' : ''}.`,
    );
  }
  if (file.mistimedFrames.length > 0)
    out.push(`Not on time: ${frameRangeWords(file.mistimedFrames.map((frame) => frame + plan.firstNumber))}.`);
  if (reading !== 'as it is') out.push(`Its colours were reckoned in another way: ${reading}.`);
  if (soundShiftSteps !== null && soundShiftSteps !== 0)
    out.push(
      `The sound is ${Math.round((Math.abs(soundShiftSteps) * 1000) / LOUDNESS_A_SECOND)} ms ${soundShiftSteps > 0 ? 'late' : 'early'} (to 10 ms).`,
    );
  if (file.sequence && file.sequence.missing.length > 0)
    out.push(`${plural(file.sequence.missing.length, 'number')} missing in its names.`);
  return out;
}

/** Lengths part when they differ by more than this: what codecs pad sound with. */
const SOUND_APART_MICROSECONDS = 25_000;

function soundWords(plan: HeldAgainst, file: OutsideCount): ReceiptLine | null {
  const counted = file.sound ? (file.sound.samples * 1_000_000) / file.sound.sampleRate : null;
  // Loops and pictures have no place for sound: none is missing in them.
  if (plan.soundMicroseconds === null || file.kind === 'loop' || file.kind === 'pictures') return null;
  return {
    what: 'sound',
    asked: secondsOfMicroseconds(plan.soundMicroseconds),
    counted: counted === null ? 'none' : secondsOfMicroseconds(counted),
    agrees: counted !== null && Math.abs(counted - plan.soundMicroseconds) <= SOUND_APART_MICROSECONDS,
  };
}

/** Containers that count thousandths of a second round the beginning of the last frame and its length. */
const ROUNDED_MICROSECONDS = 3000;

function figures(plan: HeldAgainst, file: OutsideCount, beside: Beside): readonly ReceiptLine[] {
  const line = (what: string, asked: string, counted: string, agrees = asked === counted): ReceiptLine => ({
    what,
    asked,
    counted,
    agrees,
  });
  const rates = file.rate ? [file.rate, ...file.otherRates] : [];
  const { rate, size } = plan;
  const lines = [line('frames', countText(plan.frames), countText(file.frames))];
  if (rate && file.kind === 'film')
    lines.push(
      line(
        'rate',
        rateFraction(rate),
        rates.length > 0 ? rates.map(rateFraction).join(' or ') : 'none',
        rates.some((each) => sameRate(each, rate)),
      ),
    );
  if (rate && file.durationMicroseconds !== null) {
    const planned = (plan.frames * rate.den * 1_000_000) / rate.num;
    lines.push(
      line(
        'length',
        secondsOfMicroseconds(planned),
        secondsOfMicroseconds(file.durationMicroseconds),
        Math.abs(planned - file.durationMicroseconds) <= Math.max(ROUNDED_MICROSECONDS, file.loop ? loopTickMicroseconds(file.made) : 0),
      ),
    );
  }
  if (file.mistimedFrames.length > 0)
    lines.push(line('frames on time', countText(file.frames), countText(file.frames - file.mistimedFrames.length)));
  lines.push(line('size', `${size.width} × ${size.height}`, `${file.width} × ${file.height}`));
  if (beside.alignment) {
    lines.push(line('right pictures', countText(plan.frames), countText(beside.inPlace)));
    if (beside.found !== beside.inPlace) lines.push(line('… moved', '0', countText(beside.found - beside.inPlace)));
    const twice = beside.faults.filter(({ kind }) => kind === 'twice').reduce((sum, { frames }) => sum + frames, 0);
    lines.push(line('repeats*', '0', countText(twice)));
  }
  const sound = soundWords(plan, file);
  return sound ? [...lines, sound] : lines;
}

/**
 * Says how a file agrees with what it is held against. `beside` is null where its pictures could not be looked at; `soundShiftSteps` is
 * null where the sounds were not held against each other, or have nothing to do with each other.
 */
export function agreementOf(plan: HeldAgainst, file: OutsideCount, beside: Beside | null, soundShiftSteps: number | null): Agreement {
  const words = new Words(plan, file, beside ?? NOTHING_BESIDE);
  const pictures = beside
    ? words.pictures()
    : `The pictures were not held against each other${file.undecoded === null ? '' : `: ${file.undecoded}`}.`;
  const rate = rateSentence(plan, file);
  const others = otherSentences(plan, file, beside?.reading ?? 'as it is', soundShiftSteps);
  const faults = words.isOneSentence ? [] : words.sentences();
  const lines = figures(plan, file, beside ?? NOTHING_BESIDE);
  const wrong = lines.filter(({ agrees }) => !agrees);
  const soundLine = wrong.find(({ what }) => what === 'sound');
  const sound = soundLine
    ? [soundLine.counted === 'none' ? 'The sound is missing.' : `The sound lasts ${soundLine.counted}, planned were ${soundLine.asked}.`]
    : [];
  const against = [pictures, rate, ...others, ...sound].filter((sentence): sentence is string => sentence !== null);
  const agrees = against.length === 0 && wrong.length === 0;
  const [first, ...rest] = against;
  if (agrees) {
    const how = plan.isDrawingsAlone ? 'Agrees without the background' : 'Agrees';
    return { agrees, headline: `${how}: ${plural(plan.frames, 'frame')}, each there once, each in its place.`, sentences: [], lines };
  }
  const headline = first ?? `Its ${wrong.map(({ what }) => what).join(' and ')} ${wrong.length === 1 ? 'is' : 'are'} not as planned.`;
  const alone = plan.isDrawingsAlone ? ['It shows the drawings without the background.'] : [];
  return { agrees, headline, sentences: [...rest, ...faults, ...alone], lines };
}
