import type { ReadFrame, ReadPicture } from '@/core/count/readBack';
import { changedBlocks, meanDifference } from '@/core/raster/signature';
import { differInClipFramesAlone } from '@/core/render/clipPicture';
import { type RenderPlan, stackOfEachFrame } from '@/core/render/renderPlan';

/** How far a lossy film's frame may lie from the picture meant, in levels of 255 on average over the picture. */
export const FILM_TOLERANCE_LEVELS = 3;

/** What each stack of a plan was rendered as, in their order: fingerprints of pixels for formats that keep them, signatures for those that don't. */
export type MeantPictures =
  | { readonly kind: 'exact'; readonly fingerprints: readonly string[] }
  | { readonly kind: 'near'; readonly signatures: readonly Uint8Array[] };

/**
 * What holding every frame against the picture meant found; frames count from 0 in the plan. A frame is wrong when its
 * picture is there and not the one meant, and missing when no file bears its number.
 */
export type PictureCount = {
  readonly repeatFrames: readonly number[];
  readonly wrongFrames: readonly number[];
  /** Frames on which a clip itself shows the picture before once more: they are as meant. Told where pixels are kept. */
  readonly clipRepeatFrames: readonly number[];
  readonly missingFrames: readonly number[];
  readonly untellableChanges: number;
  readonly comparison:
    | { readonly kind: 'exact' }
    /** `whileWriting`: each packet was decoded as it was written, and then found in the file by its SHA-256. */
    | { readonly kind: 'within'; readonly toleranceLevels: number; readonly largestLevels: number; readonly whileWriting: boolean }
    /** The pictures could not be decoded where the file was counted, and so were not compared. */
    | { readonly kind: 'none'; readonly reason: string };
};

/** What is found where pictures could not be decoded: nothing of them. */
export const notCompared = (reason: string): PictureCount => ({
  repeatFrames: [],
  wrongFrames: [],
  clipRepeatFrames: [],
  missingFrames: [],
  untellableChanges: 0,
  comparison: { kind: 'none', reason },
});

/*
 * A film's held frames do not decode alike, and two neighbouring drawings may differ in a corner only.
 * So a frame is judged twice: it must lie within the tolerance of the picture meant, and, where the
 * sheet changes over from picture A to B, it must on the blocks in which A and B differ be nearer to B.
 * Nearer to A means the picture before was repeated. Where no block differs enough, nobody can tell, and
 * that is counted and said. Where pixels are kept, both are plain: the fingerprints are the same or not.
 */

/** Holds the frames of a file, one after another, against the plan they were written from. */
export class PictureJudge {
  private readonly stacks: Uint32Array;
  private readonly runStarts: ReadonlySet<number>;
  private readonly blank: ReadonlySet<number>;
  private readonly repeatFrames: number[] = [];
  private readonly wrongFrames: number[] = [];
  private readonly clipRepeatFrames: number[] = [];
  private readonly seen: Uint8Array;
  private readonly changes = new Map<string, readonly number[]>();
  private taken = 0;
  /** Files of names nobody asked for: they are frames after the last. */
  private strangers = 0;
  private readonly frameOf: ReadonlyMap<string, number>;
  private named = false;
  private before: { readonly frame: number; readonly picture: ReadPicture } | null = null;
  private untellable = 0;
  private largest = 0;

  constructor(
    private readonly plan: RenderPlan,
    private readonly meant: MeantPictures,
    /** The names of its files, one a frame; none where all frames are in one. */
    names: readonly string[] = [],
  ) {
    this.frameOf = new Map(names.map((name, frame) => [name, frame]));
    this.stacks = stackOfEachFrame(plan);
    this.seen = new Uint8Array(plan.frames);
    this.runStarts = new Set(plan.runs.map((run) => run.startFrame));
    this.blank = new Set(plan.stacks.flatMap((stack, index) => (stack.layers.length === 0 ? [index] : [])));
  }

  /** Takes the next frame as it was read; one in a file of its own is the frame of that name. */
  take({ name, picture }: ReadFrame): void {
    const frame = name === null ? this.taken : (this.frameOf.get(name) ?? this.plan.frames + this.strangers++);
    this.taken++;
    this.named ||= name !== null;
    const stack = this.stacks[frame];
    if (stack === undefined) this.wrongFrames.push(frame);
    else {
      this.seen[frame] = 1;
      this.judge(frame, stack, picture);
    }
    this.before = { frame, picture };
  }

  private judge(frame: number, stack: number, picture: ReadPicture): void {
    const right = this.isMeant(stack, picture);
    const stackBefore = this.before?.frame === frame - 1 && this.runStarts.has(frame) ? this.stacks[frame - 1] : undefined;
    const looksRepeated = stackBefore !== undefined && this.isRepeat(stackBefore, stack, picture);
    const isClips = looksRepeated && this.isRepeatOfClip(stackBefore, stack);
    const repeated = looksRepeated && !isClips;
    if (isClips) this.clipRepeatFrames.push(frame);
    if (repeated) this.repeatFrames.push(frame);
    // A film's frame may lie near both pictures: nearer to the one before, it is the wrong one. One picture under two numbers is right.
    if (!right || (repeated && this.meant.kind === 'near' && stackBefore !== stack)) this.wrongFrames.push(frame);
  }

  private isMeant(stack: number, picture: ReadPicture): boolean {
    if (this.meant.kind === 'exact') return picture.kind === 'exact' && picture.fingerprint === this.meant.fingerprints[stack];
    const signature = this.meant.signatures[stack];
    if (!picture.signature || !signature) return false;
    const difference = meanDifference(picture.signature, signature);
    this.largest = Math.max(this.largest, difference);
    return difference <= FILM_TOLERANCE_LEVELS;
  }

  /** Whether a frame on which the sheet goes over to another drawing shows the picture before it once more. */
  private isRepeat(stackBefore: number, stack: number, picture: ReadPicture): boolean {
    if (this.meant.kind === 'exact')
      return (
        picture.kind === 'exact' &&
        !this.blank.has(stack) &&
        this.before?.picture.kind === 'exact' &&
        this.before.picture.fingerprint === picture.fingerprint
      );
    if (stackBefore === stack) return !this.blank.has(stack);
    return picture.signature !== undefined && this.looksLikeBefore(picture.signature, stackBefore, stack);
  }

  /** Whether two frames of a clip are the same picture in the clip itself, which the film is meant to show as it is. */
  private isRepeatOfClip(stackBefore: number, stack: number): boolean {
    const [before, now] = [this.plan.stacks[stackBefore], this.plan.stacks[stack]];
    if (this.meant.kind !== 'exact' || !before || !now || !differInClipFramesAlone(before, now)) return false;
    return this.meant.fingerprints[stackBefore] === this.meant.fingerprints[stack];
  }

  private looksLikeBefore(seen: Uint8Array, before: number, stack: number): boolean {
    if (this.meant.kind !== 'near') return false;
    const a = this.meant.signatures[before];
    const b = this.meant.signatures[stack];
    if (!a || !b) return false;
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

  /** What was found in all frames taken. Only names tell which frames are missing; a film that ends early is told by its count. */
  result(): PictureCount {
    return {
      repeatFrames: this.repeatFrames,
      wrongFrames: this.wrongFrames,
      clipRepeatFrames: this.clipRepeatFrames,
      missingFrames: this.named ? [...this.seen.keys()].filter((frame) => this.seen[frame] === 0) : [],
      untellableChanges: this.untellable,
      comparison:
        this.meant.kind === 'exact'
          ? { kind: 'exact' }
          : { kind: 'within', toleranceLevels: FILM_TOLERANCE_LEVELS, largestLevels: this.largest, whileWriting: false },
    };
  }
}
