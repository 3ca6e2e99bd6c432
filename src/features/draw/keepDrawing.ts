import { toast } from 'sonner';
import { newDrawingHere } from '@/core/edit/acts';
import { drawingShownAt } from '@/core/sheet/reading';
import type { Desk, EndedStroke } from '@/features/draw/desk';
import { type DrawTarget, makePicture } from '@/features/ink/makePicture';
import { actingNow } from '@/features/project/acting';
import { inView } from '@/features/project/hooks';
import { nextOrder, putDraft } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import { make } from '@/features/sync/session';
import { settle } from '@/features/sync/settling';

/** The key under which a drawing with a picture lies on the desk. */
export const deskKey = (drawingId: string | undefined, picture: string | null | undefined) => `${drawingId ?? ''}:${picture ?? ''}`;

/** The drawing that what is done at the frame of now belongs to; on a blank frame a new one is made for it if `makesNew`. Null when nothing can be drawn here. */
export function drawTarget(desk: Desk, makesNew = true): DrawTarget | null {
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
  if (level.locked) {
    toast.message(`${level.name} is locked: unlock it to draw on it.`, { id: 'locked' });
    return null;
  }
  const shown = drawingShownAt(level, frame);
  if (shown) return { shotId: shot.id, levelId: level.id, drawingId: shown.id };
  if (!makesNew) {
    toast.message('There is nothing drawn here to pick up.');
    return null;
  }
  const drawingId = crypto.randomUUID();
  const act = newDrawingHere({ ...actingNow(view), newId: () => drawingId }, level, frame);
  if (!act.ok) {
    toast.message(act.reason);
    return null;
  }
  desk.shows = deskKey(drawingId, null);
  return make(act.value.step) ? { shotId: shot.id, levelId: level.id, drawingId } : null;
}

/** The desk shows the drawing with its new picture, unless another one lies on it by now. */
function nowShows(desk: Desk, target: DrawTarget, digest: string | null): void {
  if (desk.shows.startsWith(`${target.drawingId}:`)) desk.shows = deskKey(target.drawingId, digest);
}

const tellNotKept = (error: unknown) =>
  toast.error(`The drawing could not be kept: ${error instanceof Error ? error.message : 'unknown reason'}.`);

/** Keeps what the desk's pixels have become. */
export function keepDrawing(desk: Desk, target: DrawTarget, pixels: Uint8ClampedArray): void {
  void settle(() => makePicture(desk.size, target, pixels, { onDigest: (digest) => nowShows(desk, target, digest) })).catch(tellNotKept);
}

/** Keeps a stroke: at once as it was drawn, where a crash of the tab can't reach it, and then as the drawing's picture. */
export function keepStroke(desk: Desk, target: DrawTarget, { stroke, pixels }: EndedStroke): void {
  const projectId = useProjectStore.getState().project?.id;
  if (!projectId) return;
  const order = nextOrder();
  // A browser without room for the draft has none for the step either, and that is told.
  const drafted = putDraft({ order, projectId, target, stroke }).catch(() => undefined);
  void settle(async () => {
    await drafted;
    await makePicture(desk.size, target, pixels, { draftOrder: order, onDigest: (digest) => nowShows(desk, target, digest) });
  }).catch(tellNotKept);
}
