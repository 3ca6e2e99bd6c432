import { queueReader } from '@/contracts/queue';

/** Under which each window's queue is kept in this browser, followed by the window's id. */
export const QUEUE_KEY = 'lime-tick-queue ';

/** The jobs of all queues that are kept here, whosever they are; null where one can't be read, which may have any. */
export function keptJobIds(): ReadonlySet<string> | null {
  const ids = new Set<string>();
  try {
    for (const key of Object.keys(localStorage)) {
      if (!key.startsWith(QUEUE_KEY)) continue;
      const read = queueReader.read(JSON.parse(localStorage.getItem(key) ?? 'null'));
      if (!read.ok) return null;
      for (const { id } of read.value.jobs) ids.add(id);
    }
  } catch {
    return null;
  }
  return ids;
}
