import { toast } from 'sonner';
import { drawingById, levelById, shotById } from '@/core/sheet/document';
import { plural } from '@/core/time/counts';
import { drawInk } from '@/features/ink/ink';
import { makePicture } from '@/features/ink/makePicture';
import { pictures } from '@/features/project/pictures';
import { dropDraft, loadDrafts } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import { settle } from '@/features/sync/settling';
import type { StrokeDraft } from '@/workers/client';

const drawingOf = ({ target }: StrokeDraft) => {
  const { project } = useProjectStore.getState();
  const shot = project && shotById(project, target.shotId);
  const level = shot && levelById(shot, target.levelId);
  return level && drawingById(level, target.drawingId);
};

/** Draws a stroke again on its drawing as it is now, and keeps it. */
async function drawAgain(draft: StrokeDraft, size: { width: number; height: number }): Promise<void> {
  const drawing = drawingOf(draft);
  if (!drawing) return dropDraft(draft.order);
  const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  if (drawing.picture) context.drawImage(await pictures.get(drawing.picture), 0, 0);
  drawInk(context, draft.stroke, true);
  const pixels = context.getImageData(0, 0, size.width, size.height).data;
  await settle(() => makePicture(size, draft.target, pixels, { draftOrder: draft.order }));
}

/** Strokes that were finished when the page was closed too soon for their picture are drawn again, in their order. */
export async function recoverStrokes(): Promise<void> {
  const { project } = useProjectStore.getState();
  if (!project) return;
  const drafts = await loadDrafts(project.id);
  if (drafts.length === 0) return;
  try {
    for (const draft of drafts) await drawAgain(draft, project.size);
    toast.message(`${plural(drafts.length, 'stroke')} of your last visit had not become a picture yet: drawn again.`);
  } catch {
    toast.error(
      `${plural(drafts.length, 'stroke')} of your last visit could not be drawn again yet: they stay safe in this browser, reload to try again.`,
    );
  }
}
