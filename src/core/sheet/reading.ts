import type { Drawing, DrawingId, DrawingRole, Level } from '@/core/document/model';
import { drawingById } from '@/core/document/model';
import { remembered, rememberedLately } from '@/core/remembered';
import { indexOfFrame, type PlacedRun, placedRuns, runAt } from '@/core/sheet/runs';
import { stepName } from '@/core/words';

/** The drawing a level shows at `frame` (from 0): a still level's only one, else the exposed one; undefined when blank. */
export function drawingShownAt(level: Level, frame: number): Drawing | undefined {
  if (level.kind === 'still') return level.drawings[0];
  return drawingById(level, runAt(level.exposures, frame)?.drawing ?? null);
}

/** The exposures of a column by drawing. */
const exposuresByDrawing = rememberedLately((exposures: Level['exposures']) => {
  const all = new Map<DrawingId, PlacedRun[]>();
  for (const run of placedRuns(exposures)) {
    if (run.drawing === null) continue;
    const own = all.get(run.drawing);
    if (own) own.push(run);
    else all.set(run.drawing, [run]);
  }
  return all;
});

/** The first exposure of each drawing that a column shows, in the order in which they first show. */
export const firstExposures = rememberedLately((exposures: Level['exposures']): ReadonlyMap<DrawingId, PlacedRun> => {
  const first = new Map<DrawingId, PlacedRun>();
  for (const run of placedRuns(exposures)) if (run.drawing !== null && !first.has(run.drawing)) first.set(run.drawing, run);
  return first;
});

/** Exposures of one drawing on its level, in order. */
export const exposuresOf = (level: Level, drawingId: DrawingId): readonly PlacedRun[] =>
  exposuresByDrawing(level.exposures).get(drawingId) ?? [];

/**
 * The nearest exposed drawing before or after `frame` on a level, not the one showing there.
 * `steps` of 1 is the next neighbour, 2 the one after it; blanks are passed over.
 */
export function neighbourDrawing(level: Level, frame: number, direction: 'before' | 'after', steps = 1): PlacedRun | undefined {
  const runs = placedRuns(level.exposures);
  const here = indexOfFrame(runs, Math.max(0, frame));
  let left = steps;
  for (let index = direction === 'before' ? here - 1 : here; index >= 0 && index < runs.length; index += direction === 'before' ? -1 : 1) {
    const run = runs[index] as PlacedRun;
    const passed = run.drawing === null || (direction === 'after' && run.startFrame <= frame);
    if (!passed && --left === 0) return run;
  }
  return undefined;
}

/** The frame on which the next or previous exposure starts; stays within 0 and the shot's last frame. */
export function stepByDrawing(level: Level, frame: number, direction: -1 | 1, lastFrame: number): number {
  const starts = placedRuns(level.exposures).map((run) => run.startFrame);
  const target = direction === 1 ? starts.find((start) => start > frame) : starts.findLast((start) => start < frame);
  if (target === undefined) return direction === 1 ? lastFrame : 0;
  return Math.min(target, lastFrame);
}

/** The frame of the next or previous exposure of a key drawing; undefined when there is none that way. */
export function stepByKey(level: Level, frame: number, direction: -1 | 1): number | undefined {
  const starts = placedRuns(level.exposures)
    .filter((run) => drawingById(level, run.drawing)?.role === 'key')
    .map((run) => run.startFrame);
  return direction === 1 ? starts.find((start) => start > frame) : starts.findLast((start) => start < frame);
}

/** The next free whole number on a level: one more than the largest in use. */
export function nextDrawingNumber(level: Level): string {
  let largest = 0;
  for (const drawing of level.drawings) largest = Math.max(largest, Number.parseInt(drawing.number, 10) || 0);
  return String(largest + 1);
}

/** The trade's word for a length: `on ones`, `on twos`, `on threes`, `on 4s`; longer than a third of a second, a hold. */
export function timingWord(frames: number, framesPerSecond: number): string {
  if (frames > framesPerSecond / 3) return `held for ${frames} frames`;
  return stepName(frames);
}

/** A role in plain words. */
export const roleWord: Record<DrawingRole, string> = { key: 'key', breakdown: 'breakdown', inbetween: 'in-between' };

/** How a level is mostly timed, for its head: `on 2s`, `still`, `cycle 6`, `mixed`. */
export const levelTiming = remembered((level: Level): string => {
  if (level.kind === 'still') return 'still';
  const runs = level.exposures.filter((run) => run.drawing !== null);
  if (runs.length === 0) return level.kind === 'guide' ? 'guide' : 'empty';
  const distinct = new Set(runs.map((run) => run.drawing)).size;
  const cycles = runs.length > distinct && distinct > 1 && runs.every((run, index) => run.drawing === runs[index % distinct]?.drawing);
  if (cycles) return `cycle ${distinct}`;
  const byLength = new Map<number, number>();
  for (const run of runs) byLength.set(run.frames, (byLength.get(run.frames) ?? 0) + 1);
  const [frames, count] = [...byLength].reduce((best, entry) => (entry[1] > best[1] ? entry : best));
  return count * 2 >= runs.length ? `on ${frames}s` : 'mixed';
});
