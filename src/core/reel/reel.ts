import { type Project, type ReelItem, type Shot, type ShotId, shotById } from '@/core/document/model';
import { remembered } from '@/core/remembered';

/** A shot on the reel: it covers the reel's frames from `startFrame` (inclusive, from 0) to `endFrame` (exclusive). */
export type ReelShot = { readonly item: ReelItem; readonly shot: Shot; readonly startFrame: number; readonly endFrame: number };

/** What a kind of item is on the reel; each kind has its entry, and what it shows has one in `@/core/render/itemRuns`. */
const SHOT_OF: { readonly [Kind in ReelItem['kind']]: (project: Project, item: ReelItem & { kind: Kind }) => Shot | undefined } = {
  shot: (project, { shotId }) => shotById(project, shotId),
};

/** The items of the reel one after another, each with the frames it covers. */
export const reelOf = remembered((project: Project): readonly ReelShot[] => {
  let startFrame = 0;
  return project.reel.items.flatMap((item) => {
    const shot = SHOT_OF[item.kind](project, item);
    // Steps take an item away with its shot; one that is left over covers nothing.
    if (!shot) return [];
    const placed = { item, shot, startFrame, endFrame: startFrame + shot.frames };
    startFrame = placed.endFrame;
    return placed;
  });
});

/** How many frames the reel has. */
export const framesOfReel = (project: Project): number => reelOf(project).at(-1)?.endFrame ?? 0;

/** The shot on the reel at `frame` (from 0); undefined past the end. */
export const reelShotAt = (project: Project, frame: number): ReelShot | undefined =>
  reelOf(project).find((placed) => frame >= placed.startFrame && frame < placed.endFrame);

/** Every shot once, in the order in which it first comes on the reel; those that are not on it follow. */
export const shotsInOrder = remembered((project: Project): readonly Shot[] => {
  const shots = new Set(reelOf(project).map(({ shot }) => shot));
  for (const shot of project.shots) shots.add(shot);
  return [...shots];
});

/** The place on the reel of the first item that shows a shot; −1 when none does. */
export const reelIndexOf = (project: Project, shotId: ShotId): number => project.reel.items.findIndex((item) => item.shotId === shotId);
