import type { Project, Shot } from '@/core/document/model';

/** A shot on the reel: it covers the reel's frames from `startFrame` (inclusive, from 0) to `endFrame` (exclusive). */
export type ReelShot = { readonly shot: Shot; readonly startFrame: number; readonly endFrame: number };

/** The shots one after another, each with the frames it covers. */
export function reelOf(project: Project): readonly ReelShot[] {
  let startFrame = 0;
  return project.shots.map((shot) => {
    const placed = { shot, startFrame, endFrame: startFrame + shot.frames };
    startFrame = placed.endFrame;
    return placed;
  });
}

/** How many frames the reel has. */
export const framesOfReel = (project: Project): number => reelOf(project).at(-1)?.endFrame ?? 0;

/** The shot on the reel at `frame` (from 0); undefined past the end. */
export const reelShotAt = (project: Project, frame: number): ReelShot | undefined =>
  reelOf(project).find((placed) => frame >= placed.startFrame && frame < placed.endFrame);
