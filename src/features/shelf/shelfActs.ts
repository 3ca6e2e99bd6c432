import type { ShelfEntry } from '@/contracts/project';
import { bytesText } from '@/core/bytes';
import { STOP } from '@/core/words';
import { saveBlob } from '@/features/project/saveText';
import { fetchPackage } from '@/features/sync/packages';
import { reasonOf } from '@/features/sync/reasonOf';
import { changeOnShelf, duplicateProject } from '@/features/sync/shelfApi';
import { toast } from '@/ui/toast';

/** Saves a project as one file, telling how far it is; it can be stopped. */
async function savePackage({ id, title }: ShelfEntry): Promise<void> {
  const own = new AbortController();
  const told = { id: `package-${id}`, duration: Number.POSITIVE_INFINITY, action: { label: STOP, onClick: () => own.abort() } };
  toast.loading(`Making a package of ${title} …`, told);
  try {
    const { file, fileName } = await fetchPackage(
      id,
      'package',
      (done, all) => toast.loading(`A package of ${title}: ${bytesText(done)} of about ${bytesText(all)}`, told),
      own.signal,
    );
    saveBlob(file, fileName);
    toast.success(`${fileName}, ${bytesText(file.size)}, was saved.`, { id: told.id, duration: 6000, action: undefined });
  } catch (error) {
    toast.dismiss(told.id);
    if (!own.signal.aborted) throw error;
  }
}

/** Does to a project what needs no asking; `changed` is called when the shelf is another then. */
export async function actOnShelf(
  entry: ShelfEntry,
  act: 'duplicate' | 'package' | 'put-away' | 'bring-back',
  changed: () => void,
): Promise<void> {
  try {
    if (act === 'package') return await savePackage(entry);
    if (act === 'duplicate') {
      await duplicateProject(entry.id);
      toast.success(`${entry.title} (copy) stands on the shelf.`);
    } else {
      const isPutAway = act === 'put-away';
      await changeOnShelf(entry.id, { isPutAway });
      toast.success(isPutAway ? `${entry.title} is put away.` : `${entry.title} is on the shelf again.`, {
        ...(isPutAway
          ? { action: { label: 'Put back', onClick: () => void actOnShelf({ ...entry, putAwayAt: '' }, 'bring-back', changed) } }
          : {}),
      });
    }
    changed();
  } catch (error) {
    toast.error(reasonOf(error));
  }
}
