/*
 * Two versions of one column of frames, and which frame of the one is which frame of the other. It begins
 * with both alike. Where a version has frames removed or inserted, the frames that still belong together
 * are cut and moved apart. Frames that are shown differently in place stay where they are: what is on them
 * is compared by whoever changes them, not here.
 *
 * An aligned run is a number of frames that lie together in both. The last one never ends, since what lies past
 * a column's end is blank in both.
 */

/** `frames` frames that lie together: from `from` in the one version, from `to` in the other. */
type AlignedRun = { readonly from: number; readonly to: number; readonly frames: number };

/** Aligned runs in the order of both versions, none empty. */
export type Alignment = readonly AlignedRun[];

/** Both versions alike, from the first frame on. */
export const ALIKE: Alignment = [{ from: 0, to: 0, frames: Number.POSITIVE_INFINITY }];

/** Frames taken out of one version from `startFrame` on, and how many came in their place. */
export type Splice = { readonly startFrame: number; readonly removedFrames: number; readonly insertedFrames: number };

type Side = 'from' | 'to';
const other = (side: Side): Side => (side === 'from' ? 'to' : 'from');

const alignedRun = (side: Side, here: number, there: number, frames: number): AlignedRun =>
  side === 'from' ? { from: here, to: there, frames } : { from: there, to: here, frames };

/** Runs that go on in both versions, made one. */
function joinedRuns(runs: readonly AlignedRun[]): Alignment {
  const all: AlignedRun[] = [];
  for (const each of runs) {
    const last = all.at(-1);
    if (last && last.from + last.frames === each.from && last.to + last.frames === each.to)
      all[all.length - 1] = { ...last, frames: last.frames + each.frames };
    else all.push(each);
  }
  return all;
}

/** The alignment once one version was spliced. As many frames in as out keep their places. */
export function splicedAlignment(alignment: Alignment, side: Side, { startFrame, removedFrames, insertedFrames }: Splice): Alignment {
  if (removedFrames === insertedFrames) return alignment;
  const endFrame = startFrame + removedFrames;
  const moved = insertedFrames - removedFrames;
  const cut = alignment.flatMap((each) => {
    const here = each[side];
    const there = each[other(side)];
    const before = Math.min(each.frames, Math.max(0, startFrame - here));
    const after = Math.min(each.frames, Math.max(0, here + each.frames - endFrame));
    const afterStart = Math.max(here, endFrame);
    return [
      ...(before > 0 ? [alignedRun(side, here, there, before)] : []),
      ...(after > 0 ? [alignedRun(side, afterStart + moved, there + (afterStart - here), after)] : []),
    ];
  });
  return joinedRuns(cut);
}

/** The alignment with `frames` frames, new in both versions, known to be the same. */
export function withMatch(alignment: Alignment, from: number, to: number, frames: number): Alignment {
  if (frames <= 0) return alignment;
  const overlaps = alignment.some((each) => each.from < from + frames && from < each.from + each.frames);
  if (overlaps) return alignment;
  return joinedRuns([...alignment, { from, to, frames }].sort((a, b) => a.from - b.from || a.to - b.to));
}

/**
 * Where `frames` frames from `startFrame` of the one version lie in the other; null when they don't lie
 * there together any more. A place between frames (`frames` 0) stays in front of what follows it.
 */
export function alignedFrame(alignment: Alignment, startFrame: number, frames: number): number | null {
  const touching = (each: AlignedRun) => startFrame >= each.from && startFrame + Math.max(1, frames) <= each.from + each.frames;
  const within = alignment.find(touching);
  if (within) return within.to + (startFrame - within.from);
  if (frames > 0) return null;
  const ending = alignment.find((each) => each.from + each.frames === startFrame);
  return ending ? ending.to + ending.frames : null;
}
