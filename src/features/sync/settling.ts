import { useProjectStore } from '@/features/sync/projectStore';

const count = (by: 1 | -1) => useProjectStore.setState((state) => ({ settling: Math.max(0, state.settling + by) }));

let work: Promise<unknown> = Promise.resolve();

/**
 * Work that ends in a step but takes a moment, one after another in the order it was asked for: the
 * picture of a finished stroke, say. Whoever needs the document to be up to date awaits `settled`.
 */
export function settle<T>(task: () => Promise<T>): Promise<T> {
  count(1);
  const result = work.then(task).finally(() => count(-1));
  work = result.catch(() => undefined);
  return result;
}

/** Ends when all work asked for so far has become steps. */
export const settled = (): Promise<unknown> => work;
