import { getDatabase, isOnServer } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';

/*
 * Who looks at a project is told as soon as it has a new revision. What this process accepts is told at once;
 * what another one accepts on the same PostgreSQL server is found by asking for the revision every second.
 */

/** The revision a project has now, and which window made it so, when that is known. */
export type Notice = { readonly revision: number; readonly windowId: string | null };
type Listener = (notice: Notice) => void;

const ASK_MILLISECONDS = 1000;

const shared = globalThis as typeof globalThis & { limeTickListeners?: Map<string, Set<Listener>> };

const listeners = (): Map<string, Set<Listener>> => {
  shared.limeTickListeners ??= new Map();
  return shared.limeTickListeners;
};

/** Tells everybody who looks at a project that it has a new revision. */
export function tellRevision(projectId: string, notice: Notice): void {
  for (const listener of listeners().get(projectId) ?? []) listener(notice);
}

/** How many windows look at a project through this process. */
export const watchersOf = (projectId: string): number => listeners().get(projectId)?.size ?? 0;

/** Calls `listener` with each revision of a project as it comes. Returns a function that ends that. */
export function listenForRevisions(projectId: string, listener: Listener): () => void {
  const all = listeners();
  const here = all.get(projectId) ?? new Set();
  all.set(projectId, here.add(listener));
  let last = -1;
  const ask = async () => {
    const revision = await revisionOf(await getDatabase(), projectId);
    if (revision === null || revision === last) return;
    last = revision;
    listener({ revision, windowId: null });
  };
  // A database that is away for a moment is asked again by the next turn.
  // What came while nobody listened is heard of at once.
  void ask().catch(() => undefined);
  const timer = isOnServer() ? setInterval(() => void ask().catch(() => undefined), ASK_MILLISECONDS) : undefined;
  return () => {
    clearInterval(timer);
    here.delete(listener);
    if (here.size === 0) all.delete(projectId);
  };
}
