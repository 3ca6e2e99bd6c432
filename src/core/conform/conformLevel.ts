import { type LengthChange, LengthChanges } from '@/core/conform/lengthChanges';
import { conformedFrame, driftMilliseconds } from '@/core/conform/rounding';
import { type Drawing, type DrawingId, drawingById, type Exposure, type Level } from '@/core/document/model';
import { once, rememberedUnder } from '@/core/remembered';
import { placedRuns, tidyRuns } from '@/core/sheet/runs';
import type { Rate } from '@/core/time/rate';

/** What to do with a drawing that would get no frame at the new rate: keep it one frame, or leave it unexposed. Refusing is the third way. */
export type VanishingRule = 'refuse' | 'keep' | 'leaveOut';

/** One exposure before and after: frames from 0 within its shot; `newFrames` of 0 when it is left out. */
export type ConformedExposure = {
  readonly drawing: DrawingId;
  readonly number: string;
  readonly oldStart: number;
  readonly oldFrames: number;
  readonly newStart: number;
  readonly newFrames: number;
  readonly driftMilliseconds: number;
};

/** A level brought to another rate: its new column, what became of each exposure, and the numbers of those that got no frame of their own. */
export type ConformedLevel = {
  readonly level: Level;
  readonly exposures: readonly Exposure[];
  readonly table: ConformedTable;
  readonly vanishing: readonly string[];
};

/** How the clock of a level changes: its shot starts on `reelStart` at `from`, and on `newStart` at `to`. */
type ClockChange = { readonly from: Rate; readonly to: Rate; readonly reelStart: number; readonly newStart: number };

const NUMBERS_A_ROW = 5;

/**
 * What becomes of each exposure of a level. Held as numbers, since it is kept for every level of a film while a rate is thought
 * about: as values a feature film's would take as much memory as the film.
 */
export class ConformedTable implements Iterable<ConformedExposure> {
  /** Largest distance of a drawing's start from where it stood in time, in milliseconds. */
  readonly mostDriftMilliseconds: number;
  /** The last frame on which one that has frames begins, as they become; −1 where none has any. */
  private readonly lastStart: number;

  /** `numbers` are five for each exposure: the place of its drawing among the level's, its first frame and its frames, and both as they become. */
  constructor(
    private readonly level: Level,
    private readonly numbers: Uint32Array,
    private readonly clock: ClockChange,
  ) {
    let [most, lastStart] = [0, -1];
    for (let at = 0; at < numbers.length; at += NUMBERS_A_ROW) {
      most = Math.max(most, Math.abs(this.driftAt(at)));
      if ((numbers[at + 4] as number) > 0) lastStart = Math.max(lastStart, numbers[at + 3] as number);
    }
    this.mostDriftMilliseconds = most;
    this.lastStart = lastStart;
  }

  private driftAt(at: number): number {
    const { from, to, reelStart, newStart } = this.clock;
    const [oldFrame, newFrame] = [this.numbers[at + 1] as number, this.numbers[at + 3] as number];
    return driftMilliseconds(reelStart + oldFrame, from, newStart + newFrame, to);
  }

  /** Frames of exposures before and after, and how many exposures go so. */
  readonly lengths = once((): readonly LengthChange[] => {
    const { numbers } = this;
    const changes = new LengthChanges();
    for (let at = 0; at < numbers.length; at += NUMBERS_A_ROW) changes.add(numbers[at + 2] as number, numbers[at + 4] as number, 1);
    return changes.all;
  });

  /** Whether one that has frames begins on a frame or later, as they become. */
  startsFrom(frame: number): boolean {
    return this.lastStart >= frame;
  }

  *[Symbol.iterator](): Iterator<ConformedExposure> {
    for (let at = 0; at < this.numbers.length; at += NUMBERS_A_ROW) {
      const [place, oldStart, oldFrames, newStart, newFrames] = this.numbers.subarray(at, at + NUMBERS_A_ROW) as unknown as [
        number,
        number,
        number,
        number,
        number,
      ];
      const { id, number } = this.level.drawings[place] as Drawing;
      yield { drawing: id, number, oldStart, oldFrames, newStart, newFrames, driftMilliseconds: this.driftAt(at) };
    }
  }
}

/**
 * Brings a level's exposures to another rate with each drawing's time kept. `reelStart` is the frame the
 * shot starts on at `from`, `newStart` the one it starts on at `to`: boundaries are rounded where they stand on the
 * reel, so that nothing drifts over a whole film either. A shot that starts later than its time, since those before
 * it are a frame each at least, begins with what is there then. With `keep`, a drawing that would vanish gets one frame and those after it
 * begin a frame later until there is room again.
 */
export function conformLevel(
  level: Level,
  from: Rate,
  to: Rate,
  vanishing: VanishingRule,
  reelStart = 0,
  newStart = conformedFrame(reelStart, from, to),
): ConformedLevel {
  const key = `${from.num}/${from.den} ${to.num}/${to.den} ${vanishing} ${reelStart} ${newStart}`;
  return conformedUnder(level, key, () => workOut(level, from, to, vanishing, reelStart, newStart));
}

/** While one level is changed, the others of a long film are as they were. */
const conformedUnder = rememberedUnder<Level, string, ConformedLevel>();

function workOut(level: Level, from: Rate, to: Rate, vanishing: VanishingRule, reelStart: number, shotStart: number): ConformedLevel {
  const boundary = (frame: number) => Math.max(0, conformedFrame(reelStart + frame, from, to) - shotStart);
  const runs: Exposure[] = [];
  const numbers: number[] = [];
  const places = new Map(level.drawings.map(({ id }, place) => [id, place]));
  const vanished: string[] = [];
  let end = 0;
  for (const run of placedRuns(level.exposures)) {
    const meantEnd = boundary(run.endFrame);
    const drawing = drawingById(level, run.drawing);
    const newStart = drawing && vanishing === 'keep' ? Math.max(end, boundary(run.startFrame)) : boundary(run.startFrame);
    const own = boundary(run.endFrame) - boundary(run.startFrame);
    if (drawing && own === 0) vanished.push(drawing.number);
    const newEnd = drawing && vanishing === 'keep' ? Math.max(newStart + 1, meantEnd) : Math.max(meantEnd, end);
    const newFrames = newEnd - Math.max(newStart, end);
    // Most keep their frames: of a feature film that is thought about at another rate, those take no memory a second time.
    const before = level.exposures[run.index] as Exposure;
    if (newFrames > 0) runs.push(newFrames === before.frames ? before : { drawing: run.drawing, frames: newFrames });
    end = Math.max(end, newEnd);
    if (drawing) {
      numbers.push(places.get(drawing.id) as number, run.startFrame, run.endFrame - run.startFrame, newStart, newFrames);
    }
  }
  const table = new ConformedTable(level, Uint32Array.from(numbers), { from, to, reelStart, newStart: shotStart });
  return { level, exposures: tidyRuns(runs), table, vanishing: vanished };
}
