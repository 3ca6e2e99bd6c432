import { useProjectStore } from '@/features/sync/projectStore';

/** Work under way: which change it will be, once it is one. */
let pending: readonly number[] = [];
let storing = 0;

const show = () => useProjectStore.setState({ settling: pending.length + storing });

/** Takes note of how many steps are on their way into the browser's own store. */
export function showStoring(steps: number): void {
  storing = steps;
  show();
}

let work: Promise<unknown> = Promise.resolve();

/**
 * Work that ends in a step but takes a moment, one after another in the order it was asked for: the
 * picture of a finished stroke, say. `order` is where the step belongs among what can be undone. Commands go on
 * meanwhile; one that needs the picture itself awaits `settled`.
 */
export function settle<T>(order: number, task: () => Promise<T>): Promise<T> {
  pending = [...pending, order];
  show();
  const result = work.then(task).finally(() => {
    pending = pending.filter((each) => each !== order);
    show();
  });
  work = result.catch(() => undefined);
  return result;
}

/** Ends when all work asked for so far has become steps. */
export const settled = (): Promise<unknown> => work;

/** The orders of changes that are still being made, the last asked for last. */
export const pendingOrders = (): readonly number[] => pending;
