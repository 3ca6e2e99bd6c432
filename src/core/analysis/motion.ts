import type { PictureMeasure, PicturePoint } from '@/core/analysis/measure';
import { type Digest, type Drawing, drawingById, type Level } from '@/core/document/model';
import { placedRuns } from '@/core/sheet/runs';

/** An exposure that could be measured: its drawing, and the frames it is held for, from `startFrame` (from 0). */
export type MeasuredExposure = {
  readonly drawing: Drawing;
  readonly startFrame: number;
  readonly frames: number;
  readonly measure: PictureMeasure;
};

/** How far the middle of a drawing travels to the next one's; the distance in pixels, and what of it comes on each frame. */
export type Travel = {
  readonly number: string;
  readonly startFrame: number;
  readonly frames: number;
  readonly centre: PicturePoint;
  readonly distancePx: number;
  readonly pxPerFrame: number;
};

/** A drawing's size against a reference drawing's, in percent: its ink, and the box around it. */
export type SizeAgainst = {
  readonly number: string;
  readonly startFrame: number;
  readonly inkPercent: number;
  readonly boxPercent: number;
};

/** How long an exposure is held. */
export type ExposureLength = { readonly number: string; readonly startFrame: number; readonly frames: number };

/** The exposures of a level whose pictures are drawn and measured, in order. */
export function measuredExposures(level: Level, measures: ReadonlyMap<Digest, PictureMeasure>): readonly MeasuredExposure[] {
  return placedRuns(level.exposures).flatMap(({ drawing: id, startFrame, endFrame }) => {
    const drawing = drawingById(level, id);
    const measure = drawing?.picture ? measures.get(drawing.picture) : undefined;
    return drawing && measure?.centre ? [{ drawing, startFrame, frames: endFrame - startFrame, measure }] : [];
  });
}

/**
 * Travel from drawing to drawing. The way to the next drawing is taken over the frames until it shows, blanks
 * between them included; the last one travels nowhere and is not in the list.
 */
export function travelOf(exposures: readonly MeasuredExposure[]): readonly Travel[] {
  return exposures.flatMap((exposure, index) => {
    const next = exposures[index + 1];
    const centre = exposure.measure.centre;
    const to = next?.measure.centre;
    if (!next || !centre || !to) return [];
    const distancePx = Math.hypot(to.x - centre.x, to.y - centre.y);
    const { startFrame, drawing } = exposure;
    const frames = next.startFrame - startFrame;
    return [{ number: drawing.number, startFrame, frames, centre, distancePx, pxPerFrame: distancePx / frames }];
  });
}

const boxPixels = ({ box }: PictureMeasure) => (box ? (box.right - box.left) * (box.bottom - box.top) : 0);

/** Sizes of drawings against a reference, each time they show. Empty when the reference has no ink. */
export function sizesAgainst(exposures: readonly MeasuredExposure[], reference: PictureMeasure): readonly SizeAgainst[] {
  const [ink, box] = [reference.inkPixels, boxPixels(reference)];
  if (ink === 0 || box === 0) return [];
  return exposures.map(({ drawing, startFrame, measure }) => ({
    number: drawing.number,
    startFrame,
    inkPercent: (measure.inkPixels / ink) * 100,
    boxPercent: (boxPixels(measure) / box) * 100,
  }));
}

/** How long each exposure of a level stands, blanks left out, up to the end of its shot. */
export function lengthsOf(level: Level, shotFrames: number): readonly ExposureLength[] {
  return placedRuns(level.exposures).flatMap(({ drawing: id, startFrame, endFrame }) => {
    const drawing = drawingById(level, id);
    return drawing && startFrame < shotFrames ? [{ number: drawing.number, startFrame, frames: endFrame - startFrame }] : [];
  });
}
