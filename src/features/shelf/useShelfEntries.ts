import { startTransition, useCallback, useEffect, useState } from 'react';
import type { ShelfEntry } from '@/contracts/project';
import { fetchShelf } from '@/features/sync/api';
import { Unreachable } from '@/features/sync/ports';
import { serverRetryer } from '@/features/sync/server';

type Told = {
  /** The projects as the page was told them last; null until it was. */
  readonly entries: readonly ShelfEntry[] | null;
  /** Why they can't be told just now. */
  readonly failure: string | null;
  /** Whether it is asked again by itself. */
  readonly isAskedAgain: boolean;
  readonly load: () => void;
};

/** The projects on the shelf. A server or database that does not answer is asked again until it does. */
export function useShelfEntries(): Told {
  const [entries, setEntries] = useState<readonly ShelfEntry[] | null>(null);
  const [failed, setFailed] = useState<{ readonly why: string; readonly isAskedAgain: boolean } | null>(null);
  const [asked, setAsked] = useState(0);
  const load = useCallback(() => setAsked((times) => times + 1), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again by `load`
  useEffect(() => {
    let current = true;
    const ask = async () => {
      while (current) {
        try {
          const told = await fetchShelf();
          serverRetryer.succeeded();
          if (!current) return;
          // The cards the page came with may still be on their way: they are not torn down for these.
          startTransition(() => setEntries(told));
          return setFailed(null);
        } catch (error) {
          const isAway = error instanceof Unreachable;
          const why = error instanceof Error && error.message !== '' ? error.message : 'The server does not answer: start Lime Tick again.';
          if (current) setFailed({ why, isAskedAgain: isAway });
          if (!isAway) return;
          await serverRetryer.wait();
        }
      }
    };
    void ask();
    return () => {
      current = false;
    };
  }, [asked]);
  return { entries, failure: failed?.why ?? null, isAskedAgain: failed?.isAskedAgain ?? false, load };
}
