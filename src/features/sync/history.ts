import type { HistoryEntry } from '@/contracts/local';
import type { Mapping } from '@/core/edit/mapping';
import { remap } from '@/core/edit/rebase';

/** What can be undone and redone, the last of each last. */
export type Stacks = { readonly undo: readonly HistoryEntry[]; readonly redo: readonly HistoryEntry[] };

export const NO_STACKS: Stacks = { undo: [], redo: [] };

/** Most that can be undone. */
export const MOST_UNDO = 1000;

/**
 * What can be undone, mapped to the document as others have changed it: what would undo something else by
 * now can't be undone any more. `rewritten` are entries whose step is another one, `lost` the orders of those gone.
 */
export function historyRewrites(
  stacks: Stacks,
  mapping: Mapping,
): { readonly stacks: Stacks; readonly rewritten: readonly HistoryEntry[]; readonly lost: readonly number[] } {
  const rewritten: HistoryEntry[] = [];
  const lost: number[] = [];
  const mapped = (entries: readonly HistoryEntry[]): readonly HistoryEntry[] => {
    // They would be made one after another, the last first.
    const lastFirst = entries.toReversed();
    const steps = remap(
      mapping,
      lastFirst.map((entry) => entry.step),
    );
    const kept = lastFirst.flatMap((entry, index): HistoryEntry[] => {
      const step = steps[index];
      if (!step) {
        lost.push(entry.order);
        return [];
      }
      if (step === entry.step) return [entry];
      const again = { ...entry, step };
      rewritten.push(again);
      return [again];
    });
    return kept.toReversed();
  };
  return { stacks: { undo: mapped(stacks.undo), redo: mapped(stacks.redo) }, rewritten, lost };
}

/** The stack with an entry where its order belongs: a stroke whose picture took its time was made before what came meanwhile. */
export function inOrder(entries: readonly HistoryEntry[], entry: HistoryEntry): readonly HistoryEntry[] {
  let place = entries.length;
  while (place > 0 && (entries[place - 1] as HistoryEntry).order > entry.order) place--;
  return entries.toSpliced(place, 0, entry);
}
