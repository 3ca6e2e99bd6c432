import { type BlendMode, type Digest, type DrawingId, drawingById, type Level, type Shot } from '@/core/document/model';
import { remembered } from '@/core/remembered';
import { drawingShownAt } from '@/core/sheet/reading';
import { placedRuns } from '@/core/sheet/runs';

/** One picture of a stack, with how much of it is seen, and how it meets what lies below; normal when not said. */
export type StackLayer = { readonly picture: Digest; readonly opacityPercent: number; readonly blend?: BlendMode };

/** Pictures lying over each other, lowest first. Two stacks with one `key` are the same picture. */
export type PictureStack = { readonly key: string; readonly layers: readonly StackLayer[] };

/** A stretch of frames the sheet holds one set of drawings for: `frames` from `startFrame` (from 0 in the plan). */
export type FrameRun = { readonly stack: number; readonly startFrame: number; readonly frames: number };

/** A stretch of a shot that shows one set of drawings: `frames` from `startFrame` (from 0). */
export type Leaving = { readonly startFrame: number; readonly frames: number; readonly layers: readonly StackLayer[] };

/** Whether a level is part of what leaves: guides never are, still ones only with the background. */
export const leaves = (level: Level, withBackground: boolean): boolean =>
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

/** Levels of a shot that leave, background and all. */
export const leavingLevels = (shot: Shot): readonly Level[] => shot.levels.filter((level) => leaves(level, true));

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

/** The layers of a level's drawings, each made when it is first asked for. */
const layersOfLevel = remembered((_level: Level) => new Map<DrawingId, StackLayer | null>());

/** A drawing's layer, one and the same each time; null while it has no picture. */
function layerOfDrawing(level: Level, drawingId: DrawingId): StackLayer | null {
  const layers = layersOfLevel(level);
  let layer = layers.get(drawingId);
  if (layer === undefined) {
    const picture = drawingById(level, drawingId)?.picture ?? null;
    layer = picture === null ? null : layerOf(level, picture);
    layers.set(drawingId, layer);
  }
  return layer;
}

const sameLayers = (a: readonly StackLayer[], b: readonly StackLayer[]): boolean =>
  a.length === b.length && a.every((layer, index) => layer === b[index]);

/** Stretches of one shot showing one set of drawn drawings. */
export function stretchesOfShot(levels: readonly Level[], shotFrames: number): readonly Leaving[] {
  const cursors = levels.map((level) => ({ level, runs: level.kind === 'still' ? [] : placedRuns(level.exposures), index: 0 }));
  const stretches: Leaving[] = [];
  const starts = changeFrames(levels, shotFrames);
  for (let place = 0; place < starts.length; place++) {
    const startFrame = starts[place] as number;
    const frames = (starts[place + 1] ?? shotFrames) - startFrame;
    const layers: StackLayer[] = [];
    for (const cursor of cursors) {
      while (cursor.index < cursor.runs.length && (cursor.runs[cursor.index]?.endFrame ?? 0) <= startFrame) cursor.index++;
      const drawingId =
        cursor.level.kind === 'still' ? (cursor.level.drawings[0]?.id ?? null) : (cursor.runs[cursor.index]?.drawing ?? null);
      const layer = drawingId === null ? null : layerOfDrawing(cursor.level, drawingId);
      if (layer) layers.push(layer);
    }
    const last = stretches.at(-1);
    if (last && sameLayers(last.layers, layers)) stretches[stretches.length - 1] = { ...last, frames: last.frames + frames };
    else stretches.push({ startFrame, frames, layers });
  }
  return stretches;
}
