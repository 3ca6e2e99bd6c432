import type { Step } from '@/core/edit/step';
import type { Digest } from '@/core/sheet/document';
import { localStore, type StrokeDraft, type WaitingStep } from '@/workers/client';

/** A picture made in this browser that a step names. */
export type NewPicture = { readonly digest: Digest; readonly png: Uint8Array };

let lastOrder = 0;

/** Numbers that grow, also over reloads and in two windows: microseconds since 1970, never the same twice. */
export function nextOrder(): number {
  lastOrder = Math.max(lastOrder + 1, Math.round((performance.timeOrigin + performance.now()) * 1000));
  return lastOrder;
}

/** Puts a new picture where a crash of the tab can't reach it and where page and workers find it. */
export async function putPicture({ digest, png }: NewPicture): Promise<void> {
  await (await localStore()).put('pictures', png, digest);
}

/** A step as it waits; `pictures` are those made for it, which are stored already. */
export const newWaiting = (projectId: string, step: Step, pictures: readonly Digest[]): WaitingStep => ({
  order: nextOrder(),
  projectId,
  step,
  pictures,
  sending: null,
});

/** Puts a step where a crash of the tab can't reach it, and lets go of the draft it was made from. */
export async function putWaiting(waiting: WaitingStep, draftOrder?: number): Promise<void> {
  const transaction = (await localStore()).transaction(['waiting', 'drafts'], 'readwrite', { durability: 'strict' });
  await transaction.objectStore('waiting').put(waiting);
  if (draftOrder !== undefined) await transaction.objectStore('drafts').delete(draftOrder);
  await transaction.done;
}

/** Puts a finished stroke where a crash of the tab can't reach it, before there is a picture of it. */
export async function putDraft(draft: StrokeDraft): Promise<void> {
  const transaction = (await localStore()).transaction('drafts', 'readwrite', { durability: 'strict' });
  const put = transaction.store.put(draft);
  // Told to commit at once, it is out of the tab's hands even when the tab dies in the next moment.
  transaction.commit();
  await put;
  await transaction.done;
}

/** Strokes of a project that never became a picture, in the order they were drawn. */
export const loadDrafts = async (projectId: string): Promise<StrokeDraft[]> =>
  (await localStore()).getAllFromIndex('drafts', 'byProject', projectId);

/** Lets go of a stroke that has nothing to be drawn on any more. */
export const dropDraft = async (order: number): Promise<void> => (await localStore()).delete('drafts', order);

/** Steps of a project that no server has acknowledged, in the order they were made. */
export const loadWaiting = async (projectId: string): Promise<WaitingStep[]> =>
  (await localStore()).getAllFromIndex('waiting', 'byProject', projectId);

/** Marks steps as belonging to a sending, or to none, before it goes out. */
export async function markSending(steps: readonly WaitingStep[], sending: WaitingStep['sending']): Promise<WaitingStep[]> {
  const marked = steps.map((step) => ({ ...step, sending }));
  const transaction = (await localStore()).transaction('waiting', 'readwrite');
  for (const step of marked) await transaction.store.put(step);
  await transaction.done;
  return marked;
}

/** Forgets steps that are acknowledged or given up, and pictures no other waiting step names. */
export async function dropWaiting(steps: readonly WaitingStep[]): Promise<void> {
  const transaction = (await localStore()).transaction(['waiting', 'pictures'], 'readwrite');
  const waiting = transaction.objectStore('waiting');
  for (const step of steps) await waiting.delete(step.order);
  const needed = new Set((await waiting.getAll()).flatMap((step) => step.pictures));
  for (const digest of new Set(steps.flatMap((step) => step.pictures))) {
    if (!needed.has(digest)) await transaction.objectStore('pictures').delete(digest);
  }
  await transaction.done;
}

/** The PNG files that waiting steps name, as far as they wait here. */
export async function picturesOfWaiting(steps: readonly WaitingStep[]): Promise<Map<Digest, Uint8Array>> {
  const store = await localStore();
  const pictures = new Map<Digest, Uint8Array>();
  for (const digest of steps.flatMap((step) => step.pictures)) {
    const png = await store.get('pictures', digest);
    if (png) pictures.set(digest, png);
  }
  return pictures;
}
