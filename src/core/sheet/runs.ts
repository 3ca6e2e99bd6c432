import type { DrawingId, Exposure } from '@/core/document/model';
import { remembered, rememberedLately } from '@/core/remembered';

/*
 * A level's exposures are run-lengths: a list of (drawing or blank, frames) from the first frame on.
 * Two touching runs of one drawing are one exposure, two touching blanks one blank, and a blank at the
 * end says nothing, since what lies past the last run is blank anyway. `tidyRuns` brings any list to
 * that one form; every function here gives lists in it.
 */

/** A run with the frames it covers: from `startFrame` (inclusive) to `endFrame` (exclusive), and its place in the list. */
export type PlacedRun = {
  readonly index: number;
  readonly drawing: DrawingId | null;
  readonly startFrame: number;
  readonly endFrame: number;
};

/** The one form of a list of runs: empty ones dropped, touching equals joined, no blank at the end. */
export function tidyRuns(runs: readonly Exposure[]): readonly Exposure[] {
  if (isTidy(runs)) return runs;
  const tidy = joined(runs);
  if (tidy.at(-1)?.drawing === null) tidy.pop();
  return tidy;
}

/** Runs without empty ones, touching equals made one. */
function joined(runs: readonly Exposure[]): Exposure[] {
  const list: Exposure[] = [];
  for (const run of runs) {
    if (run.frames <= 0) continue;
    const last = list.at(-1);
    if (last && last.drawing === run.drawing) list[list.length - 1] = { drawing: run.drawing, frames: last.frames + run.frames };
    else list.push(run);
  }
  return list;
}

function isTidy(runs: readonly Exposure[]): boolean {
  let previous: DrawingId | null | undefined;
  for (const run of runs) {
    if (run.frames <= 0 || run.drawing === previous) return false;
    previous = run.drawing;
  }
  return previous !== null;
}

/** How many frames the runs cover, up to the end of the last drawing. */
export const framesOfRuns = remembered((runs: readonly Exposure[]): number => sumOfFrames(runs));

/** Frames of the runs from one index (inclusive) to another (exclusive). */
function sumOfFrames(runs: readonly Exposure[], from = 0, to = runs.length): number {
  let frames = 0;
  for (let index = from; index < Math.min(to, runs.length); index++) frames += (runs[index] as Exposure).frames;
  return frames;
}

/** The frame each run ends on (exclusive): a tenth of the memory of placed runs. */
const endsOfRuns = rememberedLately((runs: readonly Exposure[]): Uint32Array => {
  const ends = new Uint32Array(runs.length);
  let frames = 0;
  for (let index = 0; index < runs.length; index++) {
    frames += (runs[index] as Exposure).frames;
    ends[index] = frames;
  }
  return ends;
});

/** Lists of runs that were walked for a frame once. */
const walked = new WeakSet<readonly Exposure[]>();

/**
 * The run that covers `frame` (from 0), or undefined past the last one. A list is walked the first time, since steps make
 * a new one each and ask it once; from the second time on its ends are found by halving.
 */
export function runAt(runs: readonly Exposure[], frame: number): PlacedRun | undefined {
  if (frame < 0) return undefined;
  if (walked.has(runs)) {
    const ends = endsOfRuns(runs);
    const index = firstOver(ends.length, frame, (at) => ends[at] as number);
    return index < runs.length ? placedAt(runs, index, ends[index] as number) : undefined;
  }
  walked.add(runs);
  const cut = cutBefore(runs, frame);
  return cut.index < runs.length ? placedAt(runs, cut.index, cut.startFrame + (runs[cut.index] as Exposure).frames) : undefined;
}

function placedAt(runs: readonly Exposure[], index: number, endFrame: number): PlacedRun {
  const { drawing, frames } = runs[index] as Exposure;
  return { index, drawing, startFrame: endFrame - frames, endFrame };
}

/** The first of `count` places whose end lies past `frame`, found by halving; `count` when none does. */
function firstOver(count: number, frame: number, endAt: (index: number) => number): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (endAt(middle) > frame) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** The index of the run that covers `frame`, found by halving; the number of runs when it lies past them. */
export const indexOfFrame = (runs: readonly PlacedRun[], frame: number): number =>
  firstOver(runs.length, frame, (at) => (runs[at] as PlacedRun).endFrame);

/** Every run with the frames it covers, in order. */
export const placedRuns = rememberedLately((runs: readonly Exposure[]): readonly PlacedRun[] => {
  let startFrame = 0;
  return runs.map((run, index) => {
    const placed = { index, drawing: run.drawing, startFrame, endFrame: startFrame + run.frames };
    startFrame = placed.endFrame;
    return placed;
  });
});

/** The runs of frames from `fromFrame` (inclusive) to `toFrame` (exclusive), cut at both ends, padded with blank. */
export function sliceRuns(runs: readonly Exposure[], fromFrame: number, toFrame: number): readonly Exposure[] {
  const slice: Exposure[] = [];
  let startFrame = 0;
  for (const run of runs) {
    const endFrame = startFrame + run.frames;
    const frames = Math.min(endFrame, toFrame) - Math.max(startFrame, fromFrame);
    if (frames > 0) slice.push(frames === run.frames ? run : { drawing: run.drawing, frames });
    if (endFrame >= toFrame) return slice;
    startFrame = endFrame;
  }
  const missing = toFrame - Math.max(startFrame, fromFrame);
  if (missing > 0) slice.push({ drawing: null, frames: missing });
  return slice.length > 1 && slice.at(-2)?.drawing === null ? joined(slice) : slice;
}

/** More than this many runs are not handed over as arguments. */
const MOST_SPREAD = 1000;

/** A cut before a frame: the run it goes through or stands in front of, how many of its frames lie before, and where that run starts. */
type Cut = { readonly index: number; readonly framesBefore: number; readonly startFrame: number };

/** The cut before `frame`, looked for from an earlier cut on. */
function cutBefore(runs: readonly Exposure[], frame: number, from: Cut = { index: 0, framesBefore: 0, startFrame: 0 }): Cut {
  let { startFrame } = from;
  for (let index = from.index; index < runs.length; index++) {
    const endFrame = startFrame + (runs[index] as Exposure).frames;
    if (frame < endFrame) return { index, framesBefore: frame - startFrame, startFrame };
    startFrame = endFrame;
  }
  return { index: runs.length, framesBefore: 0, startFrame };
}

/**
 * Takes `removedFrames` frames out from `fromFrame` and puts `inserted` there; what follows moves by
 * the difference. With inserted runs of the same total, nothing else moves. `runs` are in their one
 * form, so only what touches the cuts is looked at for joining.
 */
export function spliceRuns(
  runs: readonly Exposure[],
  fromFrame: number,
  removedFrames: number,
  inserted: readonly Exposure[],
): readonly Exposure[] {
  const first = cutBefore(runs, fromFrame);
  const second = cutBefore(runs, fromFrame + removedFrames, first);
  const whole = (index: number) => (runs[index] ? [runs[index] as Exposure] : []);
  const part = (index: number, frames: number) => whole(index).map((run) => ({ drawing: run.drawing, frames }));
  const cutRunFrames = runs[second.index]?.frames ?? 0;
  const middle = joined([
    ...whole(first.index - 1),
    ...part(first.index, first.framesBefore),
    ...inserted,
    ...part(second.index, cutRunFrames - second.framesBefore),
    ...whole(second.index + 1),
  ]);
  const tailStart = second.index + 2;
  if (tailStart >= runs.length && middle.at(-1)?.drawing === null) middle.pop();
  const headEnd = Math.max(0, first.index - 1);
  const spliced = withMiddle(runs, headEnd, tailStart, middle);
  // Outside headEnd … tailStart both lists are the same, so their totals differ by what the replaced and the new middle cover.
  const total = framesOfRuns.known(runs);
  if (total !== undefined) framesOfRuns.keep(spliced, total - sumOfFrames(runs, headEnd, tailStart) + sumOfFrames(middle));
  return spliced;
}

/** The runs with those from `headEnd` (inclusive) to `tailStart` (exclusive) replaced. */
function withMiddle(runs: readonly Exposure[], headEnd: number, tailStart: number, middle: readonly Exposure[]): readonly Exposure[] {
  // One new list instead of three: with ten thousand runs it is the garbage that costs time.
  if (middle.length < MOST_SPREAD) return runs.toSpliced(headEnd, tailStart - headEnd, ...middle);
  return runs.slice(0, headEnd).concat(middle, runs.slice(tailStart));
}

/** Whether two lists of runs in tidy form are the same sheet column. */
export function sameRuns(a: readonly Exposure[], b: readonly Exposure[]): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let index = 0; index < a.length; index++) {
    const one = a[index] as Exposure;
    const other = b[index] as Exposure;
    if (one !== other && (one.drawing !== other.drawing || one.frames !== other.frames)) return false;
  }
  return true;
}
