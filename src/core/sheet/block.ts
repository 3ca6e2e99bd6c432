import type { LevelId, Shot } from '@/core/document/model';
import { type Level, levelById } from '@/core/document/model';
import { columnRuns, runsTouching } from '@/core/sheet/columns';

/** A block of the sheet: frames of one or several levels, both ends inclusive, from 0. */
export type Block = { readonly levelIds: readonly LevelId[]; readonly fromFrame: number; readonly toFrame: number };

/** The levels of a block that have exposures, in the order of the block. */
export const levelsOfBlock = (shot: Shot, block: Block): readonly Level[] =>
  block.levelIds.flatMap((id) => {
    const level = levelById(shot, id);
    return level && level.kind !== 'still' ? [level] : [];
  });

/** The frames of the exposures of a level that a block touches, as one run from its first to its last drawing (end exclusive); null when it touches none. */
export function exposuresTouched(level: Level, shotFrames: number, block: Block): { startFrame: number; endFrame: number } | null {
  const runs = runsTouching(columnRuns(level, shotFrames), block.fromFrame, block.toFrame + 1).filter((run) => run.drawing !== null);
  const [first, last] = [runs[0], runs.at(-1)];
  return first && last ? { startFrame: first.startFrame, endFrame: last.endFrame } : null;
}
