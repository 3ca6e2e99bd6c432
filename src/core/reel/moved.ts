import type { Project } from '@/core/document/model';
import { framesOfReel, reelOf } from '@/core/reel/reel';

/** A shot that starts at another frame of the reel than before (frames from 0). */
export type MovedShot = { readonly code: string; readonly before: number; readonly after: number };

/** What a change moves on the reel: the shots that start elsewhere, and the reel's length before and after. */
export type ReelChange = { readonly moved: readonly MovedShot[]; readonly framesBefore: number; readonly framesAfter: number };

/** Compares where shots start before and after a change; new and removed ones are not told as moved. */
export function reelChange(before: Project, after: Project): ReelChange {
  const starts = new Map(reelOf(before).map(({ shot, startFrame }) => [shot.id, startFrame]));
  const moved = reelOf(after).flatMap(({ shot, startFrame }) => {
    const was = starts.get(shot.id);
    return was === undefined || was === startFrame ? [] : [{ code: shot.code, before: was, after: startFrame }];
  });
  return { moved, framesBefore: framesOfReel(before), framesAfter: framesOfReel(after) };
}
