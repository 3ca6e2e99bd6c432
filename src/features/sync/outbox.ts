import {
  type Aside,
  asideReader,
  type Chain,
  chainReader,
  draftReader,
  type HistoryEntry,
  historyReader,
  type StrokeDraft,
  type WaitingStep,
  waitingReader,
} from '@/contracts/local';
import type { Reader } from '@/contracts/versions';
import type { Digest } from '@/core/document/model';
import type { OutboxPort } from '@/features/sync/ports';
import { heldPicture, holdPicture, type LocalStore, letGoOfPicture, localStore, type StoredEntry } from '@/workers/client';

/** A picture made in this browser that a step names. */
export type NewPicture = { readonly digest: Digest; readonly png: Uint8Array };

let lastOrder = 0;

/** A thousandth of its own for each window, so that two windows hardly ever make the same number. */
const OWN_THOUSANDTH = Math.floor(Math.random() * 1000);

/** Numbers that grow, also over reloads: milliseconds since 1970 times 1000, and this window's own thousandth. */
export function nextOrder(): number {
  const now = Math.floor(performance.timeOrigin + performance.now()) * 1000 + OWN_THOUSANDTH;
  lastOrder = Math.max(lastOrder + 1000, now);
  return lastOrder;
}

/**
 * Puts a new picture where a crash of the tab can't reach it and where page and workers find it. Without room
 * for it there the page holds it until it is sent.
 */
export async function putPicture({ digest, png }: NewPicture): Promise<void> {
  try {
    await (await localStore()).put('pictures', png, digest);
  } catch {
    holdPicture(digest, png);
  }
}

/** Forgets pictures that no waiting step and nothing set aside names any more. */
async function dropPictures(store: LocalStore, digests: ReadonlySet<Digest>): Promise<void> {
  if (digests.size === 0) return;
  for (const digest of digests) letGoOfPicture(digest);
  const transaction = store.transaction(['waiting', 'aside', 'pictures'], 'readwrite');
  const named = (entries: readonly StoredEntry[]) => entries.flatMap((entry) => ('pictures' in entry ? (entry.pictures as Digest[]) : []));
  const needed = new Set([
    ...named(await transaction.objectStore('waiting').getAll()),
    ...named(await transaction.objectStore('aside').getAll()),
  ]);
  for (const digest of digests) if (!needed.has(digest)) await transaction.objectStore('pictures').delete(digest);
  await transaction.done;
}

/** The PNG files of pictures, as far as they wait here. */
export async function localPictures(digests: readonly Digest[]): Promise<Map<Digest, Uint8Array>> {
  const pictures = new Map<Digest, Uint8Array>();
  const store = await localStore().catch(() => null);
  for (const digest of digests) {
    const png = heldPicture(digest) ?? (await store?.get('pictures', digest));
    if (png) pictures.set(digest, png);
  }
  return pictures;
}

/**
 * Ends a transaction whose requests are all made. One that is told to commit is out of the tab's hands even when
 * the tab dies in the next moment; one that is not is undone then, together with every stroke that waits behind it.
 */
async function commitNow(transaction: Ending, requests: readonly Promise<unknown>[]): Promise<void> {
  transaction.commit();
  await Promise.all([...requests, transaction.done]);
}

type Ending = { readonly commit: () => void; readonly done: Promise<void> };

const STORES = ['waiting', 'drafts', 'pictures', 'chains', 'history', 'aside'] as const;

/** The browser's own store as the engine uses it. */
export const localOutbox: OutboxPort = {
  async rewrite({ dropped, put, draftsDropped, chain, history, historyDropped, aside }) {
    // What was accepted is on the server: held in memory it would stay there for as long as the store is full.
    const kept = new Set(aside.flatMap((entry) => entry.pictures));
    for (const digest of dropped.flatMap((entry) => entry.pictures)) if (!kept.has(digest)) letGoOfPicture(digest);
    const store = await localStore();
    const transaction = store.transaction(STORES, 'readwrite', { durability: 'strict' });
    await commitNow(transaction, [
      ...aside.map((entry) => transaction.objectStore('aside').put(entry)),
      ...dropped.map((entry) => transaction.objectStore('waiting').delete(entry.order)),
      ...put.map((entry) => transaction.objectStore('waiting').put(entry)),
      ...put
        .flatMap((entry) => entry.pictures)
        .flatMap((digest) => {
          const held = heldPicture(digest);
          return held ? [transaction.objectStore('pictures').put(held, digest)] : [];
        }),
      ...draftsDropped.map((order) => transaction.objectStore('drafts').delete(order)),
      ...history.map((entry) => transaction.objectStore('history').put(entry)),
      ...historyDropped.map((order) => transaction.objectStore('history').delete(order)),
      transaction.objectStore('chains').put(chain),
    ]);
    await dropPictures(store, new Set(dropped.flatMap((entry) => entry.pictures)));
  },
  pictures: localPictures,
};

/** Puts a finished stroke where a crash of the tab can't reach it, before there is a picture of it. */
export async function putDraft(draft: StrokeDraft): Promise<void> {
  const transaction = (await localStore()).transaction('drafts', 'readwrite', { durability: 'strict' });
  await commitNow(transaction, [transaction.store.put(draft)]);
}

/** Lets go of a stroke that has nothing to be drawn on any more. */
export async function dropDraft(order: number): Promise<void> {
  const transaction = (await localStore()).transaction('drafts', 'readwrite');
  await commitNow(transaction, [transaction.store.delete(order)]);
}

type Kind = 'waiting' | 'drafts' | 'history' | 'aside';

/**
 * What is stored of a project, in the order it was made. What can't be read is put among what was set aside,
 * as it is, and named there.
 */
async function load<T>(kind: Kind, projectId: string, reader: Reader<T>): Promise<T[]> {
  const store = await localStore();
  const transaction = store.transaction(kind, 'readonly');
  const all = transaction.store.index('byProject').getAll(projectId);
  await commitNow(transaction, [all]);
  const stored = await all;
  const read: T[] = [];
  for (const entry of stored) {
    const value = reader.read(entry);
    if (value.ok) read.push(value.value);
    else if (kind !== 'aside' && kind !== 'history') await setUnreadableAside(store, kind, entry, value.reason);
  }
  return read;
}

async function setUnreadableAside(store: LocalStore, kind: Kind, entry: StoredEntry, reason: string): Promise<void> {
  const named =
    'pictures' in entry && Array.isArray(entry.pictures) ? entry.pictures.filter((each): each is string => typeof each === 'string') : [];
  const aside: Aside = {
    version: asideReader.version,
    order: entry.order,
    id: null,
    projectId: entry.projectId,
    kind: 'unreadable',
    reason,
    words: kind === 'drafts' ? 'A stroke' : 'A change',
    step: null,
    stored: entry,
    pictures: named,
    shot: null,
    asideAt: new Date().toISOString(),
  };
  const transaction = store.transaction([kind, 'aside'], 'readwrite');
  await commitNow(transaction, [transaction.objectStore('aside').put(aside), transaction.objectStore(kind).delete(entry.order)]);
}

/** Steps of a project that no server has acknowledged. */
export const loadWaiting = (projectId: string): Promise<WaitingStep[]> => load('waiting', projectId, waitingReader);

/** Strokes of a project that never became a picture. */
export const loadDrafts = (projectId: string): Promise<StrokeDraft[]> => load('drafts', projectId, draftReader);

/** What can be undone and redone in a project; an entry that can't be read undoes nothing, and is left alone. */
export const loadHistoryEntries = (projectId: string): Promise<HistoryEntry[]> => load('history', projectId, historyReader);

/** What of a project was set aside; one that can't be read is left alone. */
export const loadAside = (projectId: string): Promise<Aside[]> => load('aside', projectId, asideReader);

/** Where the waiting steps of each window of a project belong. */
export async function loadChains(projectId: string): Promise<Chain[]> {
  const stored = await (await localStore()).getAllFromIndex('chains', 'byProject', projectId);
  return stored.flatMap((chain) => {
    const read = chainReader.read(chain);
    return read.ok ? [read.value] : [];
  });
}

/** Forgets steps of the first form that turned out to be accepted. */
export async function dropWaiting(entries: readonly WaitingStep[]): Promise<void> {
  const transaction = (await localStore()).transaction('waiting', 'readwrite', { durability: 'strict' });
  await commitNow(
    transaction,
    entries.map((entry) => transaction.store.delete(entry.order)),
  );
}

/** What one window has taken over from windows that are gone. */
export type Adoption = {
  readonly chain: Chain;
  readonly waiting: readonly WaitingStep[];
  readonly history: readonly HistoryEntry[];
  readonly aside: readonly Aside[];
  /** Orders of entries that go: their steps are no more needed, or stand in `aside`. */
  readonly waitingDropped: readonly number[];
  readonly historyDropped: readonly number[];
  readonly windowsDropped: readonly string[];
};

/** Writes what a window has taken over, as one or not at all. */
export async function writeAdoption(change: Adoption): Promise<void> {
  const { projectId } = change.chain;
  const { aside, waiting, waitingDropped, history, historyDropped, windowsDropped } = change;
  // Where there is nothing to take over the disk isn't waited for: whatever is kept after it goes to the disk after it.
  const isEmpty = [aside, waiting, waitingDropped, history, historyDropped, windowsDropped].every((list) => list.length === 0);
  const durability = isEmpty ? 'relaxed' : 'strict';
  const transaction = (await localStore()).transaction(['waiting', 'history', 'chains', 'aside'], 'readwrite', { durability });
  await commitNow(transaction, [
    ...aside.map((entry) => transaction.objectStore('aside').put(entry)),
    ...waitingDropped.map((order) => transaction.objectStore('waiting').delete(order)),
    ...waiting.map((entry) => transaction.objectStore('waiting').put(entry)),
    ...historyDropped.map((order) => transaction.objectStore('history').delete(order)),
    ...history.map((entry) => transaction.objectStore('history').put(entry)),
    ...windowsDropped.map((windowId) => transaction.objectStore('chains').delete([projectId, windowId])),
    transaction.objectStore('chains').put(change.chain),
  ]);
}

/** Writes that entries of what can be undone came and went. A browser without room for it undoes until the page is closed. */
export async function writeHistory(put: readonly HistoryEntry[], dropped: readonly number[]): Promise<void> {
  const transaction = (await localStore()).transaction('history', 'readwrite');
  await commitNow(transaction, [
    ...dropped.map((order) => transaction.store.delete(order)),
    ...put.map((entry) => transaction.store.put(entry)),
  ]);
}

/** Keeps something that is set aside, and lets go of the stroke it was made from. */
export async function writeAside(aside: Aside, draftOrder: number): Promise<void> {
  const transaction = (await localStore()).transaction(['aside', 'drafts'], 'readwrite', { durability: 'strict' });
  await commitNow(transaction, [transaction.objectStore('aside').put(aside), transaction.objectStore('drafts').delete(draftOrder)]);
}

/** Takes something out of what was set aside: it was settled, or a person has thrown it away. */
export async function dropAside(aside: Aside): Promise<void> {
  const store = await localStore();
  await store.delete('aside', aside.order);
  await dropPictures(store, new Set(aside.pictures));
}
