import { changedBlocks, meanDifference } from '@/core/raster/signature';
import { type RenderPlan, stackOfEachFrame } from '@/core/render/renderPlan';

/** How far a lossy film's frame may lie from the picture meant, in levels of 255 on average over the picture. */
export const FILM_TOLERANCE_LEVELS = 3;

/** What judging every frame found; frames count from 0. */
export type Judged = {
  readonly repeatFrames: readonly number[];
  readonly wrongFrames: readonly number[];
  readonly untellableChanges: number;
  readonly largestLevels: number;
};

/*
 * A film's held frames do not decode alike, and two neighbouring drawings may differ in a corner only.
 * So a frame is judged twice: it must lie within the tolerance of the picture meant, and, where the
 * sheet changes over from picture A to B, it must on the blocks in which A and B differ be nearer to B.
 * Nearer to A means the picture before was repeated. Where no block differs enough, nobody can tell, and
 * that is counted and said.
 */

/** Judges the frames of a film one after another; `signatures` are those of the plan's stacks, in order. */
export class FrameJudge {
  private readonly stacks: Uint32Array;
  private readonly repeatFrames: number[] = [];
  private readonly wrongFrames: number[] = [];
  private readonly changes = new Map<string, readonly number[]>();
  private taken = 0;
  private untellable = 0;
  private largest = 0;

  constructor(
    plan: RenderPlan,
    private readonly signatures: readonly Uint8Array[],
  ) {
    this.stacks = stackOfEachFrame(plan);
    this.runStarts = new Set(plan.runs.map((run) => run.startFrame));
    this.blank = new Set(plan.stacks.flatMap((stack, index) => (stack.layers.length === 0 ? [index] : [])));
  }

  private readonly runStarts: ReadonlySet<number>;
  private readonly blank: ReadonlySet<number>;

  /** Takes the signature of frame `frame` as it was read from the file. */
  take(frame: number, seen: Uint8Array): void {
    this.taken++;
    const stack = this.stacks[frame];
    const meant = stack === undefined ? undefined : this.signatures[stack];
    if (stack === undefined || !meant) {
      this.wrongFrames.push(frame);
      return;
    }
    const difference = meanDifference(seen, meant);
    this.largest = Math.max(this.largest, difference);
    const right = difference <= FILM_TOLERANCE_LEVELS;
    const before = this.stacks[frame - 1];
    if (before === undefined || !this.runStarts.has(frame)) {
      if (!right) this.wrongFrames.push(frame);
      return;
    }
    if (before === stack) {
      if (!this.blank.has(stack)) this.repeatFrames.push(frame);
      if (!right) this.wrongFrames.push(frame);
      return;
    }
    const repeated = this.looksLikeBefore(seen, before, stack);
    if (repeated) this.repeatFrames.push(frame);
    if (repeated || !right) this.wrongFrames.push(frame);
  }

  /** How many frames were taken so far. */
  get framesTaken(): number {
    return this.taken;
  }

  private looksLikeBefore(seen: Uint8Array, before: number, stack: number): boolean {
    const a = this.signatures[before] as Uint8Array;
    const b = this.signatures[stack] as Uint8Array;
    const key = `${before}>${stack}`;
    let blocks = this.changes.get(key);
    if (!blocks) {
      blocks = changedBlocks(a, b);
      this.changes.set(key, blocks);
    }
    if (blocks.length === 0) {
      this.untellable++;
      return false;
    }
    let toBefore = 0;
    let toMeant = 0;
    for (const block of blocks) {
      const value = seen[block] as number;
      toBefore += Math.abs(value - (a[block] as number));
      toMeant += Math.abs(value - (b[block] as number));
    }
    return toBefore < toMeant;
  }

  /** What was found in all frames taken so far. */
  result(): Judged {
    return {
      repeatFrames: this.repeatFrames,
      wrongFrames: this.wrongFrames,
      untellableChanges: this.untellable,
      largestLevels: this.largest,
    };
  }
}
