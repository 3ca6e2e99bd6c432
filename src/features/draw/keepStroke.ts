import { toast } from 'sonner';
import { newDrawingHere } from '@/core/edit/acts';
import { drawingShownAt } from '@/core/sheet/reading';
import type { Desk } from '@/features/draw/desk';
import { actingNow } from '@/features/project/acting';
import { inView } from '@/features/project/hooks';
import { make, makeWithPicture } from '@/features/project/session';
import { settle } from '@/features/project/settling';
import { keepPixels } from '@/workers/client';

/** What a stroke is drawn on. */
export type StrokeTarget = { readonly shotId: string; readonly levelId: string; readonly drawingId: string };

/** The key under which a drawing with a picture lies on the desk. */
export const deskKey = (drawingId: string | undefined, picture: string | null | undefined) => `${drawingId ?? ''}:${picture ?? ''}`;

/** The drawing a stroke at the frame of now belongs to; on a blank frame a new one is made for it. Null when nothing can be drawn here. */
export function strokeTarget(desk: Desk): StrokeTarget | null {
  const view = inView();
  if (!view) return null;
  const { shot, level, frame } = view;
  if (!level) {
    toast.message('There is no level to draw on: make one first.');
    return null;
  }
  if (!level.visible) {
    toast.message(`${level.name} is hidden: show it to draw on it.`);
    return null;
  }
  const shown = drawingShownAt(level, frame);
  if (shown) return { shotId: shot.id, levelId: level.id, drawingId: shown.id };
  const drawingId = crypto.randomUUID();
  const act = newDrawingHere({ ...actingNow(view), newId: () => drawingId }, level, frame);
  if (!act.ok) {
    toast.message(act.reason);
    return null;
  }
  desk.shows = deskKey(drawingId, null);
  return make(act.value.step) ? { shotId: shot.id, levelId: level.id, drawingId } : null;
}

/** Makes the desk's pixels the drawing's picture: digest and PNG are worked out aside, then it is a step like any other. */
export function keepStroke(desk: Desk, target: StrokeTarget, pixels: Uint8ClampedArray): void {
  const { width, height } = desk.canvas;
  void settle(async () => {
    const kept = await keepPixels(width, height, pixels);
    if (desk.shows.startsWith(`${target.drawingId}:`)) desk.shows = deskKey(target.drawingId, kept?.digest);
    if (kept) await makeWithPicture({ type: 'setPicture', ...target, picture: kept.digest }, kept);
    else make({ type: 'setPicture', ...target, picture: null });
  }).catch((error: unknown) => toast.error(`The stroke could not be kept: ${error instanceof Error ? error.message : 'unknown reason'}.`));
}
