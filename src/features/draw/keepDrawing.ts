import { draftReader, type InkStroke } from '@/contracts/local';
import type { Digest } from '@/core/document/model';
import { newDrawingHere } from '@/core/edit/drawingEdits';
import { drawingShownAt } from '@/core/sheet/reading';
import type { ChangedPage, Desk, FinishedStroke, PageBase } from '@/features/draw/desk';
import { drawAgain } from '@/features/ink/drawAgain';
import { type DrawTarget, drawingOf, makeKept, makePicture, packPixels } from '@/features/ink/makePicture';
import { contextNow } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { setPictureAside } from '@/features/sync/aside';
import { nextOrder, putDraft } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import { make } from '@/features/sync/session';
import { settle } from '@/features/sync/settling';
import { WINDOW_ID } from '@/features/sync/windows';
import { toast } from '@/ui/toast';
import { type KeptPart, keepPart, WorkerFailed } from '@/workers/client';

/** The key under which a drawing with a picture lies on the desk. */
export const deskKey = (drawingId: string | undefined, picture: string | null | undefined) => `${drawingId ?? ''}:${picture ?? ''}`;

/** The drawing that what is done at the current frame belongs to; on a blank frame a new one is made for it if `makesNew`. Null when nothing can be drawn here. */
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
    toast.message('There is nothing drawn here to select.');
    return null;
  }
  const drawingId = crypto.randomUUID();
  const edit = newDrawingHere({ ...contextNow(view), newId: () => drawingId }, level, frame);
  if (!edit.ok) {
    toast.message(edit.reason);
    return null;
  }
  // A stroke begins on it at once, on a page of its own.
  if (desk.ready) {
    desk.shows = deskKey(drawingId, null);
    desk.base = { drawingId, digest: null };
  }
  return make(edit.value.step) ? { shotId: shot.id, levelId: level.id, drawingId } : null;
}

/** The desk shows the drawing with its new picture, unless another one lies on it by now. */
function nowShows(desk: Desk, target: DrawTarget, digest: string | null): void {
  if (desk.shows.startsWith(`${target.drawingId}:`)) desk.shows = deskKey(target.drawingId, digest);
}

const tellNotKept = (error: unknown) =>
  toast.error(`The drawing could not be saved: ${error instanceof Error ? error.message : 'unknown reason'}.`);

/** Keeps what the desk's pixels have become. When the drawing has another picture by then, they are set aside, so that neither is lost. */
export function keepDrawing(desk: Desk, target: DrawTarget, pixels: Uint8ClampedArray): void {
  const order = nextOrder();
  const { base, size } = desk;
  void settle(order, async () => {
    if (!liesOn(target, base)) {
      const picture = await packPixels(size.width, size.height, pixels, false);
      await setPictureAside(target, picture, order, 'The drawing was changed meanwhile.');
      return;
    }
    await makePicture(size, target, pixels, {
      order,
      fromDraft: false,
      onDigest: (digest) => becomes(desk, target, base, digest),
    });
  }).catch(tellNotKept);
}

/** Whether the drawing still has the picture that a page was drawn on. */
const liesOn = (target: DrawTarget, base: PageBase): boolean =>
  base.drawingId === target.drawingId && drawingOf(target)?.picture === base.digest;

/** Takes note of the picture that what lies on the page has become, which is what it lies on from then on. */
function becomes(desk: Desk, target: DrawTarget, base: PageBase, digest: Digest | null): void {
  base.digest = digest;
  nowShows(desk, target, digest);
}

/** Makes a stroke part of its drawing's picture: by what it changed on the page where the picture's pixels are held, else by drawing it on the picture. */
async function makeStroke(desk: Desk, target: DrawTarget, stroke: InkStroke, { part, base }: ChangedPage, order: number): Promise<void> {
  const drawnOn = base.digest;
  const kept = await keepPart(drawnOn, desk.size, part.box, part.pixels).catch((error: unknown): KeptPart => {
    // A worker that failed holds nothing.
    if (error instanceof WorkerFailed) return { isHeld: false };
    throw error;
  });
  if (kept.isHeld) {
    await makeKept(target, kept.picture, { order, fromDraft: true, onDigest: (digest) => becomes(desk, target, base, digest) });
    return;
  }
  await drawAgain(desk.size, target, stroke, order, (digest, wasDrawnOn) => {
    if (wasDrawnOn === drawnOn) becomes(desk, target, base, digest);
  });
}

/**
 * Keeps a stroke: at once as it was drawn, where a crash of the tab can't reach it, and then as the drawing's
 * picture. Where the drawing has another picture by then than the page lay on, the stroke is drawn on that one.
 */
export function keepStroke(desk: Desk, target: DrawTarget, { stroke, page }: FinishedStroke): void {
  const projectId = useProjectStore.getState().project?.id;
  if (!projectId) return;
  const order = nextOrder();
  if (!page) desk.keepEarly(order, target.drawingId, stroke);
  // A browser without room for the draft has none for the step either, and that is told.
  const drafted = putDraft({ version: draftReader.version, order, projectId, windowId: WINDOW_ID, target, stroke }).catch(() => undefined);
  void settle(order, async () => {
    await drafted;
    if (page && liesOn(target, page.base)) await makeStroke(desk, target, stroke, page, order);
    else await drawAgain(desk.size, target, stroke, order);
  })
    .catch(tellNotKept)
    .finally(() => desk.forgetEarly(order));
}
