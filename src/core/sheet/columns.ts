import type { Exposure, Level, Shot } from '@/core/document/model';
import { rememberedUnder } from '@/core/remembered';
import { framesOfRuns, indexOfFrame, type PlacedRun, placedRuns } from '@/core/sheet/runs';

/** The levels that are columns of the sheet, in front first: all but the still ones, which have no exposures. */
export const sheetColumns = (shot: Pick<Shot, 'levels'>): readonly Level[] =>
  shot.levels.filter((level) => level.kind !== 'still').toReversed();

const runsForLength = rememberedUnder<readonly Exposure[], number, readonly PlacedRun[]>();

/** A level's runs with the blank after the last one written out, so that every frame of the shot is in a run. */
export const columnRuns = ({ exposures }: Level, shotFrames: number): readonly PlacedRun[] =>
  runsForLength(exposures, shotFrames, () => {
    const frames = framesOfRuns(exposures);
    const placed = placedRuns(exposures);
    return frames >= shotFrames ? placed : [...placed, { index: placed.length, drawing: null, startFrame: frames, endFrame: shotFrames }];
  });

/** The runs that touch frames from `fromFrame` (inclusive) to `toFrame` (exclusive), found by halving. */
export function runsTouching(runs: readonly PlacedRun[], fromFrame: number, toFrame: number): readonly PlacedRun[] {
  const first = indexOfFrame(runs, fromFrame);
  let end = first;
  while (end < runs.length && (runs[end] as PlacedRun).startFrame < toFrame) end++;
  return runs.slice(first, end);
}
