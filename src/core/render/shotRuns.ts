import { type Drawing, drawingsById, type Level } from '@/core/document/model';
import { rememberedLately } from '@/core/remembered';
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

/** What a level shows one after another: a layer, or nothing (null), until a frame (from 0); the next differs from the one before. */
type LevelRun = { readonly layer: StackLayer | null; readonly endFrame: number };

/** A level's runs by what they show, kept for a while: most steps change one level of many. A drawing's layer is one and the same each time. */
const runsOfLevel = rememberedLately((level: Level): readonly LevelRun[] => {
  const layers = new Map<string, StackLayer>();
  const layerOfDrawing = (drawing: Drawing | undefined): StackLayer | null => {
    if (!drawing?.picture) return null;
    const layer = layers.get(drawing.id) ?? layerOf(level, drawing.picture);
    layers.set(drawing.id, layer);
    return layer;
  };
  if (level.kind === 'still') return [{ layer: layerOfDrawing(level.drawings[0]), endFrame: Number.POSITIVE_INFINITY }];
  const drawings = drawingsById(level);
  const runs: LevelRun[] = [];
  let last: StackLayer | null = null;
  for (const { drawing, endFrame } of placedRuns(level.exposures)) {
    const layer = layerOfDrawing(drawings.get(drawing));
    if (runs.length > 0 && layer === last) runs.pop();
    runs.push({ layer, endFrame });
    last = layer;
  }
  // Past its end a level shows nothing either.
  if (last === null) runs.pop();
  return runs;
});

/** The runs of a shot of `shotFrames` frames, in order and without a gap; a new one starts where another set of drawn drawings shows. */
export function shotRuns(levels: readonly Level[], shotFrames: number): readonly ShotRun[] {
  const cursors = levels.map((level) => ({ runs: runsOfLevel(level), index: 0 }));
  const runs: ShotRun[] = [];
  for (let startFrame = 0; startFrame < shotFrames; ) {
    const layers: StackLayer[] = [];
    let endFrame = shotFrames;
    for (const cursor of cursors) {
      let run = cursor.runs[cursor.index];
      while (run && run.endFrame <= startFrame) run = cursor.runs[++cursor.index];
      if (!run) continue;
      if (run.endFrame < endFrame) endFrame = run.endFrame;
      if (run.layer) layers.push(run.layer);
    }
    // At the end of a level's run that level shows another layer or none: what is shown differs from what was.
    runs.push({ startFrame, frames: endFrame - startFrame, layers });
    startFrame = endFrame;
  }
  return runs;
}
