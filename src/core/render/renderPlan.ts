import type { ColourRange } from '@/core/document/checks';
import { type Project, type Shot, type ShotId, type Size, shotById, wholeShot } from '@/core/document/model';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { framesOfReel, itemAt, type PlacedItem, placedItems } from '@/core/reel/reel';
import { remembered } from '@/core/remembered';
import { itemRuns } from '@/core/render/itemRuns';
import { type PictureStack, type StackLayer, stackKey } from '@/core/render/stacks';
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
  /** Colours are held within this range in every picture; null when they stay as they are. */
  readonly holdColours: ColourRange | null;
};

/** What to render: frames of the reel or of one shot, from `fromFrame` to `toFrame` (both inclusive, from 0). */
export type RenderRequest = {
  readonly shotId: ShotId | null;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly withBackground: boolean;
};

/** What lies on the reel, or one shot alone from frame 0 on. */
export function placedIn(project: Project, shotId: ShotId | null): readonly PlacedItem[] {
  if (shotId === null) return placedItems(project);
  const shot = shotById(project, shotId);
  return shot ? [{ item: wholeShot(shot.id), index: 0, shot, fromFrame: 0, startFrame: 0, endFrame: shot.frames }] : [];
}

/** Whether an item shows the frames of a shot that follow those the item before it shows: the cut between them is no change. */
const goesOn = (before: PlacedItem, { shot, fromFrame }: PlacedItem): boolean =>
  shot !== null && before.shot === shot && before.fromFrame + before.endFrame - before.startFrame === fromFrame;

/** The plan of a request; refuses a range that is not within the reel or shot. */
export function renderPlanOf(project: Project, request: RenderRequest): Outcome<RenderPlan> {
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
  const stackOfLayers = new Map<readonly StackLayer[], number>();
  let before: PlacedItem | undefined;
  let lastLayers: readonly StackLayer[] | undefined;
  for (const each of placed) {
    const itemStart = each.startFrame - first.startFrame;
    const isGoingOn = before !== undefined && goesOn(before, each);
    before = each;
    for (const run of itemRuns(each, request.withBackground)) {
      const from = Math.max(itemStart + run.startFrame, fromFrame);
      const to = Math.min(itemStart + run.startFrame + run.frames, toFrame + 1);
      if (from >= to) continue;
      let stack = stackOfLayers.get(run.layers);
      if (stack === undefined) {
        const key = stackKey(run.layers);
        stack = stackIndex.get(key) ?? stacks.push({ key, layers: run.layers }) - 1;
        stackIndex.set(key, stack);
        stackOfLayers.set(run.layers, stack);
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
    holdColours: project.checks.holdColours,
  });
}

/** What is seen at a frame of the reel (from 0) with its background, lowest first; nothing outside it. For single frames, where the plan of a long reel would cost more than it tells. */
export function layersOnReel(project: Project, frame: number): readonly StackLayer[] {
  const placed = itemAt(project, frame);
  const within = frame - (placed?.startFrame ?? 0);
  const runs = placed ? itemRuns(placed, true) : [];
  return runs.find((run) => within < run.startFrame + run.frames)?.layers ?? NOTHING;
}

/** What is seen at a frame of a plan (from 0), lowest first; nothing outside it. Found by halving. */
export function layersAtFrame({ runs, stacks }: RenderPlan, frame: number): readonly StackLayer[] {
  let low = 0;
  let high = runs.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    const { startFrame, frames } = runs[middle] as RenderRun;
    if (startFrame + frames <= frame) low = middle + 1;
    else high = middle;
  }
  const run = runs[low];
  return (run && frame >= run.startFrame && stacks[run.stack]?.layers) || NOTHING;
}

const NOTHING: readonly StackLayer[] = [];

/** The plan of the whole reel with its background; null when there is nothing on it. */
export const planOfReel = remembered((project: Project): RenderPlan | null => {
  const frames = framesOfReel(project);
  return frames === 0 ? null : mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: frames - 1, withBackground: true }));
});

/** The plan of one shot of the project alone, with its background. */
export const planOfShot = (project: Project, shot: Shot): RenderPlan =>
  mustBeDone(renderPlanOf(project, { shotId: shot.id, fromFrame: 0, toFrame: shot.frames - 1, withBackground: true }));

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

/** One line that is the same for two plans just when the same pictures leave for the same frames at the same rate and size. */
export function planText(plan: RenderPlan): string {
  const held = plan.holdColours ? ` held ${plan.holdColours.from}-${plan.holdColours.to}` : '';
  const runs = plan.runs.map((run) => `${plan.stacks[run.stack]?.key}*${run.frames}`).join(' ');
  return `${plan.size.width}x${plan.size.height} ${plan.rate.num}/${plan.rate.den} ${runs}${held}`;
}
