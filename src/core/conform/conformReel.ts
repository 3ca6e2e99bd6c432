import { conformedFrame } from '@/core/conform/rounding';
import { framesOfClip } from '@/core/document/clip';
import type { ClipItem, ReelItem, Shot } from '@/core/document/model';
import type { ItemTiming } from '@/core/edit/step';
import type { Rate } from '@/core/time/rate';

/** An item of the reel as it lies there: `startFrame` inclusive, `endFrame` exclusive, from 0; a shot's is shown from its frame `fromFrame` on. */
export type ReelPlace = {
  readonly item: ReelItem;
  readonly source: { readonly name: string } | null;
  readonly shot: Shot | null;
  readonly fromFrame: number;
  readonly startFrame: number;
  readonly endFrame: number;
};

/** A cut that a rate change moves in time by half a new frame or more: the item that starts there, and both frames (from 0). */
export type MovedCut = { readonly item: ReelItem; readonly name: string; readonly oldFrame: number; readonly newFrame: number };

/** Whether frame `newFrame` at `to` stands half a frame or more from frame `oldFrame` at `from`. */
export const isHalfOff = (oldFrame: number, from: Rate, newFrame: number, to: Rate): boolean => {
  const exact = (oldFrame * from.den * to.num) / (from.num * to.den);
  // A start just between two frames is rounded to the later one: that is no move.
  return Math.abs(newFrame - exact) > 0.5 + 1e-6;
};

/** A shot's new length, and where a frame of it lies then. */
export type ConformedFrames = { readonly newFrames: number; readonly boundary: (frame: number) => number };

/** A clip's new length on the reel; null trim when it stays whole. */
export type ConformedClip = { readonly newFrames: number; readonly timing: ItemTiming | null };

/**
 * What becomes of a clip on the reel. Read as the film's it has as many frames as before, each of which lasts another time
 * now; converted it keeps its time, to `nearest` frames where it is trimmed.
 */
export function conformedClip(item: ClipItem, shownFrames: number, nearest: number, from: Rate, to: Rate): ConformedClip {
  if (item.way === 'readAs') return { newFrames: shownFrames, timing: null };
  const whole = framesOfClip(item.clip, item.way, to);
  if (item.trim === null) return { newFrames: whole, timing: null };
  const frames = Math.min(nearest, whole);
  const fromFrame = Math.max(0, Math.min(conformedFrame(item.trim.fromFrame, from, to), whole - frames));
  return { newFrames: frames, timing: { itemId: item.id, trim: { fromFrame, frames } } };
}

/** What becomes of the clips on a reel whose shots keep their counts, and how many frames it has then. */
export function conformedClips(
  places: readonly ReelPlace[],
  from: Rate,
  to: Rate,
): { readonly items: readonly ItemTiming[]; readonly newFrames: number } {
  const items: ItemTiming[] = [];
  let newFrames = 0;
  for (const { item, startFrame, endFrame } of places) {
    const frames = endFrame - startFrame;
    const clip = item.kind === 'clip' ? conformedClip(item, frames, Math.max(1, conformedFrame(frames, from, to)), from, to) : null;
    newFrames += clip?.newFrames ?? frames;
    if (clip?.timing) items.push(clip.timing);
  }
  return { items, newFrames };
}

/*
 * Cuts stand on the new frame nearest to their time on the reel: an item's new length is the difference of its new ends, so
 * that nothing drifts over a whole film. A whole shot is as long as it becomes; frames shown of a trimmed one begin with the
 * nearest to the one it began with, a frame earlier where it would run past the end of its shot and didn't before.
 */

/** What the lengths and trims of a reel become when time is kept, item by item, and the cuts that can't stand where they should. */
export function conformedItems(
  places: readonly ReelPlace[],
  from: Rate,
  to: Rate,
  /** Called for each item of a shot in order, with the frame of the reel its item starts on then. */
  shotAt: (place: ReelPlace & { readonly shot: Shot }, newStart: number) => ConformedFrames,
): { readonly items: readonly ItemTiming[]; readonly newFrames: number; readonly movedCuts: readonly MovedCut[] } {
  const items: ItemTiming[] = [];
  const movedCuts: MovedCut[] = [];
  let newStart = 0;
  for (const place of places) {
    const { item, source, shot, fromFrame, startFrame, endFrame } = place;
    if (isHalfOff(startFrame, from, newStart, to))
      movedCuts.push({ item, name: source?.name ?? 'the gap', oldFrame: startFrame, newFrame: newStart });
    const nearest = Math.max(1, conformedFrame(endFrame, from, to) - newStart);
    if (item.kind === 'gap') {
      items.push({ itemId: item.id, frames: nearest });
      newStart += nearest;
      continue;
    }
    if (item.kind === 'clip') {
      const clip = conformedClip(item, endFrame - startFrame, nearest, from, to);
      if (clip.timing) items.push(clip.timing);
      newStart += clip.newFrames;
      continue;
    }
    if (!shot) continue;
    const { newFrames, boundary } = shotAt({ ...place, shot }, newStart);
    if (item.trim === null) {
      newStart += newFrames;
      continue;
    }
    const wasWithin = fromFrame + endFrame - startFrame <= shot.frames;
    const start = wasWithin ? Math.max(0, Math.min(boundary(fromFrame), newFrames - nearest)) : boundary(fromFrame);
    items.push({ itemId: item.id, trim: { fromFrame: start, frames: nearest } });
    newStart += nearest;
  }
  return { items, newFrames: newStart, movedCuts };
}

/** What the trims of one shot become when that shot alone is brought to another rate: each end on the frame nearest to it within the shot. */
export const conformedTrims = (places: readonly ReelPlace[], { boundary }: ConformedFrames): readonly ItemTiming[] =>
  places.flatMap(({ item }): readonly ItemTiming[] => {
    if (item.kind !== 'shot' || item.trim === null) return [];
    const fromFrame = boundary(item.trim.fromFrame);
    return [{ itemId: item.id, trim: { fromFrame, frames: Math.max(1, boundary(item.trim.fromFrame + item.trim.frames) - fromFrame) } }];
  });
