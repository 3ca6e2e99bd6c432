import { type DrawingId, drawingById, type Level } from '@/core/document/model';
import { remembered } from '@/core/remembered';
import { layerOf, type StackLayer } from '@/core/render/stacks';
import { drawingShownAt } from '@/core/sheet/reading';
import { placedRuns } from '@/core/sheet/runs';

/*
 * What a shot shows, asked in two ways: at one frame (`layersAt`), and over all its frames as runs (`shotRuns`), from which
 * render plans are made. A test holds them to the same answer on every frame.
 */

/** Frames of a shot that show one set of drawings: `frames` from `startFrame` (from 0). */
export type ShotRun = { readonly startFrame: number; readonly frames: number; readonly layers: readonly StackLayer[] };

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

/** The runs of a shot of `shotFrames` frames, in order and without a gap; a new one starts where another set of drawn drawings shows. */
export function shotRuns(levels: readonly Level[], shotFrames: number): readonly ShotRun[] {
  const cursors = levels.map((level) => ({ level, runs: level.kind === 'still' ? [] : placedRuns(level.exposures), index: 0 }));
  const runs: ShotRun[] = [];
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
    const last = runs.at(-1);
    if (last && sameLayers(last.layers, layers)) runs[runs.length - 1] = { ...last, frames: last.frames + frames };
    else runs.push({ startFrame, frames, layers });
  }
  return runs;
}
