import type { Finish, FinishEffect } from '@/core/document/finish';
import { type Project, type Shot, type ShotId, type Size, shotById, wholeShot } from '@/core/document/model';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { firstPlaceOf, framesOfReel, itemAt, type PlacedItem, placedItems } from '@/core/reel/reel';
import { remembered } from '@/core/remembered';
import { itemRuns } from '@/core/render/itemRuns';
import { layersAt } from '@/core/render/shotRuns';
import { leavingLevels, type PictureStack, type StackLayer, stackOf } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';

/*
 * What is seen is settled before the first pixel is drawn. Going along the reel, a new run starts on each frame where a
 * level goes over to another drawn drawing, or where the next item starts; planned drawings without a picture show
 * nothing. A run names its picture stack, and equal stacks are one, so that the cost of rendering follows the distinct
 * stacks however long each shows.
 */

/** Frames that show one stack: `frames` from `startFrame` (from 0 in the plan); `stack` is its index in the plan. */
export type RenderRun = { readonly stack: number; readonly startFrame: number; readonly frames: number };

/** The one answer to what is seen at frame n: distinct stacks, and which of them each run of frames shows. Runs follow each other without a gap. */
export type RenderPlan = {
  readonly rate: Rate;
  readonly size: Size;
  readonly frames: number;
  /** The number the first frame is shown with. */
  readonly firstNumber: number;
  readonly stacks: readonly PictureStack[];
  readonly runs: readonly RenderRun[];
  /** The effects that lie over every stack that is finished, in their order. */
  readonly finish: Finish;
  /** The size pictures are composited and finished in, where they are scaled to `size` afterwards. */
  readonly composedSize?: Size;
};

/** What to render: frames of the reel or of one shot, from `fromFrame` to `toFrame` (both inclusive, from 0). */
export type RenderRequest = {
  readonly shotId: ShotId | null;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly withBackground: boolean;
  /** Whether it is to be looked at or to leave: each effect of the finish says of both whether it is on. */
  readonly isPreview?: boolean;
};

/** The effects of a project's finish that are on. */
export const finishOf = ({ finish }: Project, isPreview: boolean): Finish =>
  finish.filter(({ inPreview, inHandover }) => (isPreview ? inPreview : inHandover));

/** What lies on the reel, or one shot alone from frame 0 on. */
export function placedIn(project: Project, shotId: ShotId | null): readonly PlacedItem[] {
  if (shotId === null) return placedItems(project);
  const shot = shotById(project, shotId);
  if (!shot) return [];
  const source = { name: shot.code, frames: shot.frames, shot, clip: null };
  // One shot alone is finished unless its first place on the reel says that it is not.
  const item = { ...wholeShot(shot.id), finished: firstPlaceOf(project, shot.id)?.item.finished ?? true };
  return [{ item, index: 0, source, shot, fromFrame: 0, startFrame: 0, endFrame: shot.frames }];
}

/** Whether an item shows the frames of its source that follow those the item before it shows: the cut between them is no change. */
function goesOn(before: PlacedItem, { item, source, fromFrame }: PlacedItem): boolean {
  const isSame = source !== null && (source.shot ? before.shot === source.shot : before.source?.clip?.original === source.clip.original);
  const isReadAlike = before.item.kind !== 'clip' || item.kind !== 'clip' || before.item.way === item.way;
  const follows = before.fromFrame + before.endFrame - before.startFrame === fromFrame;
  return isSame && isReadAlike && follows && before.item.finished === item.finished;
}

/** The plan of a request; refuses a range that is not within the reel or shot. That of the whole reel is one for all who ask: of a feature film it takes megabytes. */
export function renderPlanOf(project: Project, request: RenderRequest): Outcome<RenderPlan> {
  const isWhole = request.shotId === null && request.withBackground && request.fromFrame === 0;
  if (isWhole && request.toFrame === framesOfReel(project) - 1) {
    const plan = request.isPreview ? previewOfReel(project) : planOfReel(project);
    if (plan) return done(plan);
  }
  return workOutPlan(project, request);
}

function workOutPlan(project: Project, request: RenderRequest): Outcome<RenderPlan> {
  const placed = placedIn(project, request.shotId);
  const first = placed[0];
  const last = placed.at(-1);
  if (!first || !last) return refused('There is nothing to hand over: the project has no such shot.');
  const total = last.endFrame - first.startFrame;
  const { fromFrame, toFrame } = request;
  if (fromFrame > toFrame) {
    return refused(
      `Frames ${fromFrame + project.firstFrameNumber} to ${toFrame + project.firstFrameNumber} run backwards: write the first frame first, ${toFrame + project.firstFrameNumber} to ${fromFrame + project.firstFrameNumber}.`,
    );
  }
  if (!Number.isInteger(fromFrame) || !Number.isInteger(toFrame) || fromFrame < 0 || toFrame >= total) {
    const shown = (frame: number) => frame + project.firstFrameNumber;
    return refused(
      `Frames ${shown(fromFrame)} to ${shown(toFrame)} can’t be handed over: there are frames ${shown(0)} to ${shown(total - 1)}.`,
    );
  }
  const stacks: PictureStack[] = [];
  const stackIndex = new Map<string, number>();
  const runs: RenderRun[] = [];
  // Runs of one shot show the very same layers again and again: their key is worked out once.
  const indexOfLayers = [new Map<readonly StackLayer[], number>(), new Map<readonly StackLayer[], number>()] as const;
  const finish = finishOf(project, request.isPreview ?? false);
  let before: PlacedItem | undefined;
  let lastLayers: readonly StackLayer[] | undefined;
  for (const each of placed) {
    const itemStart = each.startFrame - first.startFrame;
    const isGoingOn = before !== undefined && goesOn(before, each);
    before = each;
    // Where there is no finish nothing is left without it.
    const finished = finish.length === 0 || each.item.finished;
    const known = indexOfLayers[finished ? 1 : 0];
    for (const run of itemRuns(project, each, request.withBackground)) {
      const from = Math.max(itemStart + run.startFrame, fromFrame);
      const to = Math.min(itemStart + run.startFrame + run.frames, toFrame + 1);
      if (from >= to) continue;
      let stack = known.get(run.layers);
      if (stack === undefined) {
        const made = stackOf(run.layers, finished);
        stack = stackIndex.get(made.key) ?? stacks.push(made) - 1;
        stackIndex.set(made.key, stack);
        known.set(run.layers, stack);
      }
      const last = runs.at(-1);
      if (last && isGoingOn && lastLayers === run.layers) runs[runs.length - 1] = { ...last, frames: last.frames + to - from };
      else runs.push({ stack, startFrame: from - fromFrame, frames: to - from });
      lastLayers = run.layers;
    }
  }
  return done({
    rate: project.rate,
    size: project.size,
    frames: toFrame - fromFrame + 1,
    firstNumber: fromFrame + project.firstFrameNumber,
    stacks,
    runs,
    finish,
  });
}

const NOTHING: PictureStack = stackOf([], true);

/** What is seen at a frame of the reel (from 0) with its background, as a preview; nothing outside it. For single frames, where the plan of a long reel would cost more than it tells. */
export function stackOnReel(project: Project, frame: number): PictureStack {
  const placed = itemAt(project, frame);
  if (!placed) return NOTHING;
  const within = frame - placed.startFrame;
  const run = itemRuns(project, placed, true).find(({ startFrame, frames }) => within < startFrame + frames);
  return stackOf(run?.layers ?? [], placed.item.finished || finishOf(project, true).length === 0);
}

/** What is seen at a frame of one shot alone (from 0), as a preview. */
export function stackOfShot(project: Project, shot: Shot, frame: number): PictureStack {
  const finished = firstPlaceOf(project, shot.id)?.item.finished ?? true;
  return stackOf(layersAt(leavingLevels(shot), frame), finished || finishOf(project, true).length === 0);
}

/** What is seen at a frame of a plan (from 0); nothing outside it. Found by halving. */
export function stackAtFrame({ runs, stacks }: RenderPlan, frame: number): PictureStack {
  let low = 0;
  let high = runs.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    const { startFrame, frames } = runs[middle] as RenderRun;
    if (startFrame + frames <= frame) low = middle + 1;
    else high = middle;
  }
  const run = runs[low];
  return (run && frame >= run.startFrame && stacks[run.stack]) || NOTHING;
}

const wholeReel = (project: Project, isPreview: boolean): RenderPlan | null => {
  const frames = framesOfReel(project);
  return frames === 0
    ? null
    : mustBeDone(workOutPlan(project, { shotId: null, fromFrame: 0, toFrame: frames - 1, withBackground: true, isPreview }));
};

/** The plan of the whole reel with its background, as it leaves; null when there is nothing on it. */
export const planOfReel = remembered((project: Project) => wholeReel(project, false));

/** Whether a film is looked at with the very effects it leaves with. */
function isSeenAsItLeaves(project: Project): boolean {
  const [seen, left] = [finishOf(project, true), finishOf(project, false)];
  return seen.length === left.length && seen.every((effect, index) => effect === left[index]);
}

/** The same, to be looked at. */
export const previewOfReel = remembered((project: Project) => (isSeenAsItLeaves(project) ? planOfReel(project) : wholeReel(project, true)));

/** The plan of one shot of the project alone, with its background, to be looked at. */
export const previewOfShot = (project: Project, shot: Shot): RenderPlan =>
  mustBeDone(renderPlanOf(project, { shotId: shot.id, fromFrame: 0, toFrame: shot.frames - 1, withBackground: true, isPreview: true }));

/** The stack each frame of the plan shows, by its index in `stacks`. */
export function stackOfEachFrame(plan: RenderPlan): Uint32Array {
  const stacks = new Uint32Array(plan.frames);
  for (const run of plan.runs) stacks.fill(run.stack, run.startFrame, run.startFrame + run.frames);
  return stacks;
}

/**
 * Frames (from 0 in the plan) that show the picture of the frame before though the sheet goes over to
 * another drawing there: repeats nobody asked for. Nothing over nothing is none.
 */
export function unwantedRepeats(plan: RenderPlan): readonly number[] {
  return plan.runs
    .filter((run, index) => index > 0 && plan.runs[index - 1]?.stack === run.stack && plan.stacks[run.stack]?.layers.length !== 0)
    .map((run) => run.startFrame);
}

/** What an effect does, as a part of `planText`; a range for colours is told as receipts of earlier versions told it. */
function effectText(effect: FinishEffect): string {
  switch (effect.kind) {
    case 'holdColours':
      return ` held ${effect.range.from}-${effect.range.to}`;
    case 'blur':
      return ` blur ${effect.deviationPx}`;
    case 'layOver':
      return ` over ${effect.deviationPx} ${effect.mode} ${effect.opacityPercent}`;
  }
}

/** One line that is the same for two plans just when the same pictures leave for the same frames at the same rate and size. */
export function planText(plan: RenderPlan): string {
  const runs = plan.runs.map((run) => `${plan.stacks[run.stack]?.key}*${run.frames}`).join(' ');
  const scaled = plan.composedSize ? ` of ${plan.composedSize.width}x${plan.composedSize.height}` : '';
  return `${plan.size.width}x${plan.size.height}${scaled} ${plan.rate.num}/${plan.rate.den} ${runs}${plan.finish.map(effectText).join('')}`;
}
