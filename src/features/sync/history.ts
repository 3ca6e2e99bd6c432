import type { Step } from '@/core/edit/step';
import { nextOrder } from '@/features/sync/outbox';
import type { UndoEntry } from '@/features/sync/projectStore';
import { type HistoryEntry, localStore } from '@/workers/client';

/*
 * What can be undone outlasts the page: every act writes its undoing into the browser's own store, one
 * after another. An entry that no longer fits, since another window was faster, is dropped when its turn
 * comes, as it is without a reload.
 */

let writing: Promise<void> = Promise.resolve();

function write(
  change: (store: { put(entry: HistoryEntry): Promise<unknown>; delete(order: number): Promise<unknown> }) => Promise<unknown>[],
) {
  writing = writing
    .then(async () => {
      const transaction = (await localStore()).transaction('history', 'readwrite');
      await Promise.all([...change(transaction.store), transaction.done]);
    })
    // A browser without room for it undoes until the page is closed; that steps are safe is told where they are kept.
    .catch(() => undefined);
}

/** A new entry of what can be undone. */
export const undoEntry = (step: Step, words: string): UndoEntry => ({ order: nextOrder(), step, words });

/** Writes that an entry was added to one stack, and which entries left. */
export function rememberUndo(projectId: string, stack: 'undo' | 'redo', added: UndoEntry | null, left: readonly UndoEntry[]): void {
  write((store) => [...left.map((entry) => store.delete(entry.order)), ...(added ? [store.put({ ...added, projectId, stack })] : [])]);
}

/** What can be undone and done again in a project, as earlier visits left it. */
export async function loadHistory(projectId: string): Promise<{ undo: readonly UndoEntry[]; redo: readonly UndoEntry[] }> {
  await writing;
  const entries = await (await localStore()).getAllFromIndex('history', 'byProject', projectId);
  const of = (stack: 'undo' | 'redo') =>
    entries.filter((entry) => entry.stack === stack).map(({ order, step, words }): UndoEntry => ({ order, step, words }));
  return { undo: of('undo'), redo: of('redo') };
}
