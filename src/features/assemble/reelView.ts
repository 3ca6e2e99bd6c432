import { create } from 'zustand';
import { whenClosed } from '@/features/sync/projectStore';

/** Widest a frame is shown, in CSS pixels. */
export const WIDEST_FRAME_PX = 64;
/** How much nearer one press of zoom is. */
const ZOOM_STEP = 1.5;

/**
 * How the reel lies on the screen: `scale` is the width of a frame in CSS pixels, null for the whole reel in the room there is;
 * `leftFrame` the frame at the left edge, not always a whole one; `widthPx` the room there is.
 */
type ReelView = { readonly scale: number | null; readonly leftFrame: number; readonly widthPx: number };

const START: ReelView = { scale: null, leftFrame: 0, widthPx: 900 };

export const useReelView = create<ReelView>(() => START);
whenClosed(() => useReelView.setState(START));

/** The part of the reel in sight, of a reel of so many frames. */
export type Sight = { readonly scale: number; readonly leftFrame: number; readonly rightFrame: number; readonly widthPx: number };

/** Paper past the end of the reel that is in sight when all of it is: room to drop something behind the end. */
const ROOM_PART = 1.04;

const wholeScale = (frames: number, widthPx: number): number => widthPx / Math.max(1, frames * ROOM_PART);

const scaleOf = (scale: number, frames: number, widthPx: number): number =>
  Math.max(Math.min(wholeScale(frames, widthPx), WIDEST_FRAME_PX), Math.min(WIDEST_FRAME_PX, scale));

const leftOf = (leftFrame: number, scale: number, frames: number, widthPx: number): number =>
  Math.max(0, Math.min(leftFrame, frames * ROOM_PART - widthPx / scale));

/** What is in sight. */
export function sightOf({ scale, leftFrame, widthPx }: ReelView, frames: number): Sight {
  const width = Math.max(1, widthPx);
  const now = scale === null ? scaleOf(0, frames, width) : scaleOf(scale, frames, width);
  const left = leftOf(leftFrame, now, frames, width);
  return { scale: now, leftFrame: left, rightFrame: left + width / now, widthPx: width };
}

/** Shows a frame `times` as wide, the frame `aboutFrame` staying where it is. */
export function zoomBy(times: number, frames: number, aboutFrame: number): void {
  const view = useReelView.getState();
  const { scale, leftFrame, widthPx } = sightOf(view, frames);
  const next = scaleOf(scale * times, frames, widthPx);
  const kept = Math.max(leftFrame, Math.min(aboutFrame, leftFrame + widthPx / scale));
  const left = kept - ((kept - leftFrame) * scale) / next;
  useReelView.setState({ scale: next <= wholeScale(frames, widthPx) ? null : next, leftFrame: leftOf(left, next, frames, widthPx) });
}

export const zoomIn = (frames: number, aboutFrame: number): void => zoomBy(ZOOM_STEP, frames, aboutFrame);
export const zoomOut = (frames: number, aboutFrame: number): void => zoomBy(1 / ZOOM_STEP, frames, aboutFrame);
export const showAll = (): void => useReelView.setState({ scale: null, leftFrame: 0 });

/** Moves the reel by so many frames under the window, to the left when positive. */
export function scrollBy(byFrames: number, frames: number): void {
  const view = useReelView.getState();
  const { scale, leftFrame, widthPx } = sightOf(view, frames);
  useReelView.setState({ leftFrame: leftOf(leftFrame + byFrames, scale, frames, widthPx) });
}

/** Brings a frame into sight: when it isn't, near the left edge, so that most of what follows is in sight, too. */
export function bringIntoSight(frame: number, frames: number): void {
  const view = useReelView.getState();
  const { scale, leftFrame, rightFrame, widthPx } = sightOf(view, frames);
  if (frame >= leftFrame && frame < rightFrame) return;
  useReelView.setState({ leftFrame: leftOf(frame - (rightFrame - leftFrame) * 0.1, scale, frames, widthPx) });
}

/** Where a frame starts in the window, in CSS pixels from its left edge. */
export const xOf = (frame: number, { scale, leftFrame }: Sight): number => (frame - leftFrame) * scale;

/** The frame at a place of the window; it may lie past the end. */
export const frameAt = (x: number, { scale, leftFrame }: Sight): number => Math.max(0, Math.floor(leftFrame + x / scale));

/** Elements of a list in order, from `startFrame` to `endFrame` each, that are in sight. Found by halving. */
export function inSight<T extends { readonly startFrame: number; readonly endFrame: number }>(
  list: readonly T[],
  { leftFrame, rightFrame }: Sight,
): readonly T[] {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((list[middle] as T).endFrame <= leftFrame) low = middle + 1;
    else high = middle;
  }
  const shown: T[] = [];
  for (let index = low; index < list.length && (list[index] as T).startFrame < rightFrame; index++) shown.push(list[index] as T);
  return shown;
}
