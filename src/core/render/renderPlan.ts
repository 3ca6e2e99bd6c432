import type { ColourRange } from '@/core/document/checks';
import type { Project, ShotId, Size } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';
import { reelOf } from '@/core/reel/reel';
import { type FrameRun, leaves, type PictureStack, stackKey, stretchesOfShot } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';

/*
 * What leaves is settled before the first pixel is drawn. Walking the sheet, a new run starts on each
 * frame where a level goes over to another drawn drawing, or where the next shot starts; planned
 * drawings without a picture show nothing. A run names its picture stack, and equal stacks are one, so
 * that the cost of a handover follows the distinct stacks however long each stands.
 */

/** Everything that leaves: distinct stacks, and which of them each run of frames shows. */
export type FramePlan = {
  readonly rate: Rate;
  readonly size: Size;
  readonly frames: number;
  readonly firstNumber: number;
  readonly stacks: readonly PictureStack[];
  readonly runs: readonly FrameRun[];
  /** Colours are held within this range in every picture that leaves. */
  readonly holdColours: ColourRange | null;
};

/** What to hand over: frames of the reel or of one shot, from `fromFrame` to `toFrame` (both inclusive, from 0). */
export type PlanRequest = {
  readonly shotId: ShotId | null;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly withBackground: boolean;
};

/** What leaves for a request; refuses a range that is not within the reel or shot. */
export function planFrames(project: Project, request: PlanRequest): Outcome<FramePlan> {
  const placed = reelOf(project).filter(({ shot }) => request.shotId === null || shot.id === request.shotId);
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
    return refused(`Frames ${shown(fromFrame)} to ${shown(toFrame)} can't leave: there are frames ${shown(0)} to ${shown(total - 1)}.`);
  }
  const stacks: PictureStack[] = [];
  const stackIndex = new Map<string, number>();
  const runs: FrameRun[] = [];
  for (const { shot, startFrame } of placed) {
    const shotStart = startFrame - first.startFrame;
    const levels = shot.levels.filter((level) => leaves(level, request.withBackground));
    for (const stretch of stretchesOfShot(levels, shot.frames)) {
      const from = Math.max(shotStart + stretch.startFrame, fromFrame);
      const to = Math.min(shotStart + stretch.startFrame + stretch.frames, toFrame + 1);
      if (from >= to) continue;
      const key = stackKey(stretch.layers);
      let stack = stackIndex.get(key);
      if (stack === undefined) {
        stack = stacks.push({ key, layers: stretch.layers }) - 1;
        stackIndex.set(key, stack);
      }
      runs.push({ stack, startFrame: from - fromFrame, frames: to - from });
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

/** The stack each frame of the plan shows, by its index in `stacks`. */
export function stackOfEachFrame(plan: FramePlan): Uint32Array {
  const stacks = new Uint32Array(plan.frames);
  for (const run of plan.runs) stacks.fill(run.stack, run.startFrame, run.startFrame + run.frames);
  return stacks;
}

/**
 * Frames (from 0 in the plan) that show the picture of the frame before though the sheet goes over to
 * another drawing there: repeats nobody asked for. Nothing over nothing is none.
 */
export function unwantedRepeats(plan: FramePlan): readonly number[] {
  return plan.runs
    .filter((run, index) => index > 0 && plan.runs[index - 1]?.stack === run.stack && plan.stacks[run.stack]?.layers.length !== 0)
    .map((run) => run.startFrame);
}

/** One line that is the same for two plans just when the same pictures leave for the same frames at the same rate and size. */
export function planText(plan: FramePlan): string {
  const held = plan.holdColours ? ` held ${plan.holdColours.from}-${plan.holdColours.to}` : '';
  const runs = plan.runs.map((run) => `${plan.stacks[run.stack]?.key}*${run.frames}`).join(' ');
  return `${plan.size.width}x${plan.size.height} ${plan.rate.num}/${plan.rate.den} ${runs}${held}`;
}
