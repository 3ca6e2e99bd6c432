import type { StrokeDraft } from '@/contracts/local';
import { plural } from '@/core/time/counts';
import { drawAgain } from '@/features/ink/drawAgain';
import { loadDrafts } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import { settle } from '@/features/sync/settling';
import { aloneInBrowser, livingWindows } from '@/features/sync/windows';
import { toast } from '@/ui/toast';

/** Strokes of windows that are gone: what a living window draws it makes a picture of itself. */
async function strokesLeft(projectId: string): Promise<StrokeDraft[]> {
  const drafts = await loadDrafts(projectId).catch(() => []);
  const alive = await livingWindows();
  return drafts.filter((draft) => !alive.has(draft.windowId));
}

/** Strokes that were finished when their page was closed too soon for their picture are drawn again, in their order. */
export async function recoverStrokes(): Promise<void> {
  const { project } = useProjectStore.getState();
  if (!project) return;
  await aloneInBrowser(`${project.id} strokes`, async () => {
    const drafts = await strokesLeft(project.id);
    if (drafts.length === 0) return;
    try {
      for (const { target, stroke, order } of drafts) await settle(order, () => drawAgain(project.size, target, stroke, order));
      toast.message(`${plural(drafts.length, 'stroke')} of your last visit had not become a picture yet: drawn again.`);
    } catch {
      toast.error(
        `${plural(drafts.length, 'stroke')} of your last visit could not be drawn again yet: they stay safe in this browser, reload to try again.`,
      );
    }
  });
}
