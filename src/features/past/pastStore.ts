import { useMemo } from 'react';
import { create } from 'zustand';
import type { Past } from '@/contracts/past';
import type { Project } from '@/core/document/model';
import { momentsOf, type PastMoment, type Sitting } from '@/core/past/sittings';
import { fetchMoment, fetchPast, fetchPastChanges, putMomentName } from '@/features/sync/pastApi';
import { useProjectStore } from '@/features/sync/projectStore';
import { reasonOf } from '@/features/sync/reasonOf';
import { untilKept } from '@/features/sync/session';

/** What the page of the past shows. A moment is held against today's document, or another moment. */
type PastState = {
  readonly projectId: string | null;
  readonly past: Past | null;
  readonly trouble: string | null;
  /** Moments of sittings that were opened, by their first revision. */
  readonly moments: ReadonlyMap<number, readonly PastMoment[]>;
  readonly chosen: number | null;
  readonly against: number | 'today';
  /** Documents as they were, by revision; null while one is on its way. */
  readonly documents: ReadonlyMap<number, Project | null>;
  readonly shotId: string | null;
  readonly frame: number;
};

const NOTHING: PastState = {
  projectId: null,
  past: null,
  trouble: null,
  moments: new Map(),
  chosen: null,
  against: 'today',
  documents: new Map(),
  shotId: null,
  frame: 0,
};

export const usePastStore = create<PastState>(() => NOTHING);

/** Documents that are held at hand: each may be large. */
const MOST_DOCUMENTS = 8;

const failed = (error: unknown): void => usePastStore.setState({ trouble: reasonOf(error) });

const withEntry = <K, V>(map: ReadonlyMap<K, V>, key: K, value: V): ReadonlyMap<K, V> => new Map(map).set(key, value);

/** Opens the past of the open project, from its beginning or anew. */
export async function openPast(projectId: string): Promise<void> {
  if (usePastStore.getState().projectId !== projectId) usePastStore.setState({ ...NOTHING, projectId });
  try {
    // What was done a moment ago is part of it.
    await untilKept();
    const past = await fetchPast(projectId);
    usePastStore.setState({ past, trouble: null });
    const [last] = past.sittings;
    if (last) await openSitting(last);
    const { chosen } = usePastStore.getState();
    if (chosen === null) await chooseMoment(last ? last.fromRevision - 1 : past.revision);
  } catch (error) {
    failed(error);
  }
}

/** Loads a sitting's moments, the last one first; again when it has grown. */
export async function openSitting({ fromRevision, toRevision }: Sitting): Promise<void> {
  const { projectId } = usePastStore.getState();
  if (projectId === null) return;
  try {
    const changes = await fetchPastChanges(projectId, fromRevision, toRevision);
    usePastStore.setState(({ moments }) => ({ moments: withEntry(moments, fromRevision, momentsOf(changes).toReversed()) }));
  } catch (error) {
    failed(error);
  }
}

async function loadDocument(revision: number): Promise<void> {
  const { projectId, documents } = usePastStore.getState();
  if (projectId === null || documents.has(revision)) return;
  usePastStore.setState({ documents: withEntry(documents, revision, null) });
  try {
    const document = await fetchMoment(projectId, revision);
    usePastStore.setState((state) => {
      const held = withEntry(state.documents, revision, document);
      const needless = [...held.keys()].find((each) => each !== state.chosen && each !== state.against && each !== revision);
      if (held.size > MOST_DOCUMENTS && needless !== undefined) (held as Map<number, Project | null>).delete(needless);
      return { documents: held };
    });
  } catch (error) {
    usePastStore.setState(({ documents: held }) => ({ documents: new Map([...held].filter(([each]) => each !== revision)) }));
    failed(error);
  }
}

/** Opens a moment beside what it is held against. */
export async function chooseMoment(revision: number): Promise<void> {
  usePastStore.setState({ chosen: Math.max(0, revision), trouble: null });
  await loadDocument(Math.max(0, revision));
}

/** Holds the chosen moment against today, or against another. */
export async function holdAgainst(against: number | 'today'): Promise<void> {
  usePastStore.setState({ against });
  if (against !== 'today') await loadDocument(against);
}

/** Gives a moment a name, or takes it away (null). */
export async function nameMoment(revision: number, name: string | null): Promise<void> {
  const { projectId } = usePastStore.getState();
  if (projectId === null) return;
  try {
    await putMomentName(projectId, { revision, name });
    usePastStore.setState({ past: await fetchPast(projectId) });
  } catch (error) {
    failed(error);
  }
}

/** The two documents that are held against each other. */
export type Held = { readonly was: Project; readonly is: Project };

/** Those two; null while one is on its way. */
export function useHeld(): Held | null {
  const { chosen, against, documents } = usePastStore();
  const today = useProjectStore((state) => state.project);
  const was = chosen === null ? null : documents.get(chosen);
  const is = against === 'today' ? today : documents.get(against);
  return useMemo(() => (was && is ? { was, is } : null), [was, is]);
}
