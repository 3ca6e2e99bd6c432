import { create } from 'zustand';
import type { Size } from '@/core/document/model';
import { boundsOfPixels } from '@/core/raster/bounds';
import { type Desk, newPage } from '@/features/draw/desk';
import { keepDrawing } from '@/features/draw/keepDrawing';
import type { DrawTarget } from '@/features/ink/makePicture';

type Point = { readonly x: number; readonly y: number };

/** Where a picked-up part lies: moved from where it was (px of the picture), then sized and turned about its middle. */
export type PartPlace = {
  readonly dx: number;
  readonly dy: number;
  readonly scale: number;
  readonly turnDegrees: number;
  readonly mirroredX: boolean;
  readonly mirroredY: boolean;
};

const UNMOVED: PartPlace = { dx: 0, dy: 0, scale: 1, turnDegrees: 0, mirroredX: false, mirroredY: false };

/** A part of a drawing in the hand: its own pixels, what stays lying, and the box it was picked up from. */
export type Part = {
  readonly desk: Desk;
  readonly target: DrawTarget;
  readonly picked: OffscreenCanvas;
  readonly rest: OffscreenCanvas;
  readonly box: { readonly left: number; readonly top: number; readonly width: number; readonly height: number };
};

/** The selected part, if any, and where it is held. */
export const usePartStore = create<{ part: Part | null; place: PartPlace }>(() => ({ part: null, place: UNMOVED }));

function copyOf(canvas: CanvasImageSource, size: Size, clip: Path2D | null, keeps: 'inside' | 'outside'): OffscreenCanvas {
  const context = newPage(size);
  if (keeps === 'inside') {
    if (clip) context.clip(clip);
    context.drawImage(canvas, 0, 0);
  } else if (clip) {
    context.drawImage(canvas, 0, 0);
    context.globalCompositeOperation = 'destination-out';
    context.fill(clip);
  }
  return context.canvas;
}

/** Picks up what lies within a loop drawn around it, or all of the drawing. False when there is nothing. */
export function pickUp(desk: Desk, target: DrawTarget, loop: readonly Point[] | null): boolean {
  const { size } = desk;
  const clip = loop && new Path2D(`M${loop.map(({ x, y }) => `${x} ${y}`).join('L')}Z`);
  const pixels = desk.pixels();
  const page = desk.page.canvas;
  const picked = copyOf(page, size, clip, 'inside');
  const within = clip ? picked.getContext('2d')?.getImageData(0, 0, size.width, size.height).data : pixels;
  const bounds = within && boundsOfPixels(size.width, size.height, within);
  if (!bounds) return false;
  const box = { left: bounds.left, top: bounds.top, width: bounds.right - bounds.left, height: bounds.bottom - bounds.top };
  usePartStore.setState({ part: { desk, target, picked, rest: copyOf(page, size, clip, 'outside'), box }, place: UNMOVED });
  return true;
}

/** Draws what stays and the part where it is held, in pixels of the picture. */
function drawHeld(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  { picked, rest, box }: Part,
  place: PartPlace,
): void {
  context.drawImage(rest, 0, 0);
  context.save();
  const [middleX, middleY] = [box.left + box.width / 2, box.top + box.height / 2];
  context.translate(middleX + place.dx, middleY + place.dy);
  context.rotate((place.turnDegrees * Math.PI) / 180);
  context.scale(place.mirroredX ? -place.scale : place.scale, place.mirroredY ? -place.scale : place.scale);
  context.imageSmoothingQuality = 'high';
  const { left, top, width, height } = box;
  context.drawImage(picked, left, top, width, height, left - middleX, top - middleY, width, height);
  context.restore();
}

/** Holds the part elsewhere. */
export function placePart(change: Partial<PartPlace>): void {
  const { part, place } = usePartStore.getState();
  if (!part) return;
  const next = { ...place, ...change };
  usePartStore.setState({ place: next });
  part.desk.showInstead((context) => drawHeld(context, part, next));
}

/** Puts the drawing back as it was before the part was picked up. */
export function putPartBack(): void {
  const { part } = usePartStore.getState();
  if (!part) return;
  usePartStore.setState({ part: null, place: UNMOVED });
  part.desk.refresh();
}

/** Puts the part down where it is held: that is the drawing now. */
export function putPartDown(): void {
  const { part, place } = usePartStore.getState();
  const moved = (Object.keys(UNMOVED) as (keyof PartPlace)[]).some((key) => place[key] !== UNMOVED[key]);
  if (!part || !moved) {
    putPartBack();
    return;
  }
  usePartStore.setState({ part: null, place: UNMOVED });
  part.desk.replace((context) => drawHeld(context, part, place));
  keepDrawing(part.desk, part.target, part.desk.pixels());
}
