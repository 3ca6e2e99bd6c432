import { done, type Outcome, refused } from '@/core/outcome';
import { reelOf } from '@/core/reel/reel';
import type { BlendMode, Digest, Level, Project, ShotId, Size } from '@/core/sheet/document';
import { drawingShownAt } from '@/core/sheet/reading';
import { placedRuns } from '@/core/sheet/runs';
import type { Rate } from '@/core/time/rate';

/*
 * What leaves is settled before the first pixel is drawn. Walking the sheet, a new run starts on each
 * frame where a level goes over to another drawn drawing, or where the next shot starts; planned
 * drawings without a picture show nothing. A run names its picture stack, and equal stacks are one, so
 * that the cost of a handover follows the distinct stacks however long each stands.
 */

/** One picture of a stack, with how much of it is seen, and how it meets what lies below; normal when not said. */
export type StackLayer = { readonly picture: Digest; readonly opacityPercent: number; readonly blend?: BlendMode };

/** Pictures lying over each other, lowest first. Two stacks with one `key` are the same picture. */
export type PictureStack = { readonly key: string; readonly layers: readonly StackLayer[] };

/** A stretch of frames the sheet holds one set of drawings for: `frames` from `startFrame` (from 0 in the plan). */
export type FrameRun = { readonly stack: number; readonly startFrame: number; readonly frames: number };

/** Everything that leaves: distinct stacks, and which of them each run of frames shows. */
export type FramePlan = {
  readonly rate: Rate;
  readonly size: Size;
  readonly frames: number;
  readonly firstNumber: number;
  readonly stacks: readonly PictureStack[];
  readonly runs: readonly FrameRun[];
};

/** What to hand over: frames of the reel or of one shot, from `fromFrame` to `toFrame` (both inclusive, from 0). */
export type PlanRequest = {
  readonly shotId: ShotId | null;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly withBackground: boolean;
};

type Leaving = { readonly startFrame: number; readonly frames: number; readonly layers: readonly StackLayer[] };

const leaves = (level: Level, withBackground: boolean) =>
  level.visible && level.opacityPercent > 0 && level.kind !== 'guide' && (withBackground || level.kind !== 'still');

/** The key of a stack: its pictures, opacities and blend modes in order. */
export const stackKey = (layers: readonly StackLayer[]): string =>
  layers.map((layer) => `${layer.picture}@${layer.opacityPercent}${layer.blend ? `~${layer.blend}` : ''}`).join('+');

/** A level's picture as it lies in a stack. */
export const layerOf = (level: Level, picture: Digest): StackLayer => ({
  picture,
  opacityPercent: level.opacityPercent,
  ...(level.blend === 'normal' ? {} : { blend: level.blend }),
});

/** The pictures levels show at a frame of their shot, lowest first. */
export function layersAt(levels: readonly Level[], frame: number): readonly StackLayer[] {
  const layers: StackLayer[] = [];
  for (const level of levels) {
    const picture = drawingShownAt(level, frame)?.picture;
    if (picture) layers.push(layerOf(level, picture));
  }
  return layers;
}

/** Frames of a shot at which what is shown may change: starts of exposures, from 0. */
function changeFrames(levels: readonly Level[], shotFrames: number): readonly number[] {
  const starts = new Set<number>([0]);
  for (const level of levels) {
    if (level.kind === 'still') continue;
    for (const run of placedRuns(level.exposures)) {
      starts.add(run.startFrame);
      starts.add(run.endFrame);
    }
  }
  return [...starts].filter((frame) => frame < shotFrames).sort((a, b) => a - b);
}

/** Stretches of one shot showing one set of drawn drawings. */
function stretchesOfShot(levels: readonly Level[], shotFrames: number): readonly Leaving[] {
  const cursors = levels.map((level) => ({ level, runs: placedRuns(level.exposures), index: 0 }));
  const stretches: (Leaving & { drawings: string })[] = [];
  const starts = changeFrames(levels, shotFrames);
  starts.forEach((startFrame, place) => {
    const frames = (starts[place + 1] ?? shotFrames) - startFrame;
    const layers: StackLayer[] = [];
    let drawings = '';
    for (const cursor of cursors) {
      while (cursor.index < cursor.runs.length && (cursor.runs[cursor.index]?.endFrame ?? 0) <= startFrame) cursor.index++;
      const shown =
        cursor.level.kind === 'still' ? cursor.level.drawings[0] : findDrawing(cursor.level, cursor.runs[cursor.index]?.drawing ?? null);
      if (!shown?.picture) continue;
      layers.push(layerOf(cursor.level, shown.picture));
      drawings += `${shown.id} `;
    }
    const last = stretches.at(-1);
    if (last && last.drawings === drawings) stretches[stretches.length - 1] = { ...last, frames: last.frames + frames };
    else stretches.push({ startFrame, frames, layers, drawings });
  });
  return stretches;
}

const drawingIndex = new WeakMap<Level['drawings'], Map<string, Level['drawings'][number]>>();

function findDrawing(level: Level, drawingId: string | null) {
  if (drawingId === null) return undefined;
  let byId = drawingIndex.get(level.drawings);
  if (!byId) {
    byId = new Map(level.drawings.map((drawing) => [drawing.id, drawing]));
    drawingIndex.set(level.drawings, byId);
  }
  return byId.get(drawingId);
}

/** What leaves for a request; refuses a range that is not within the reel or shot. */
export function planFrames(project: Project, request: PlanRequest): Outcome<FramePlan> {
  const placed = reelOf(project).filter(({ shot }) => request.shotId === null || shot.id === request.shotId);
  const first = placed[0];
  const last = placed.at(-1);
  if (!first || !last) return refused('There is nothing to hand over: the project has no such shot.');
  const total = last.endFrame - first.startFrame;
  const { fromFrame, toFrame } = request;
  if (!Number.isInteger(fromFrame) || !Number.isInteger(toFrame) || fromFrame < 0 || toFrame >= total || fromFrame > toFrame) {
    const shown = (frame: number) => frame + project.startFrame;
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
    firstNumber: fromFrame + project.startFrame,
    stacks,
    runs,
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
  const runs = plan.runs.map((run) => `${plan.stacks[run.stack]?.key}*${run.frames}`).join(' ');
  return `${plan.size.width}x${plan.size.height} ${plan.rate.num}/${plan.rate.den} ${runs}`;
}
