import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Digest } from '@/core/document/model';

/*
 * What the browser keeps in its own store (IndexedDB), where it outlasts a crashed tab and is read by the page
 * and by workers alike: steps no server has acknowledged, the pictures they name, strokes that are no picture
 * yet, what can be undone, and what was set aside. The form of each is in `@/contracts/local`, which reads what
 * any earlier version wrote; here they are as they were stored.
 */

/** An entry as it is stored: in which order it was made, and of which project. */
export type StoredEntry = { readonly order: number; readonly projectId: string };

/** Where the waiting steps of a window belong, as it is stored. */
export type StoredChain = { readonly projectId: string; readonly windowId: string };

interface LocalSchema extends DBSchema {
  drafts: { key: number; value: StoredEntry; indexes: { byProject: string } };
  history: { key: number; value: StoredEntry; indexes: { byProject: string } };
  waiting: { key: number; value: StoredEntry; indexes: { byProject: string } };
  aside: { key: number; value: StoredEntry; indexes: { byProject: string } };
  chains: { key: [string, string]; value: StoredChain; indexes: { byProject: string } };
  pictures: { key: Digest; value: Uint8Array };
}

/** What is told on the page while another page of an earlier version keeps the store from being opened. */
export const STORE_BLOCKED = 'lime-tick-store-blocked';

export type LocalStore = IDBPDatabase<LocalSchema>;

let opened: Promise<LocalStore> | undefined;

/** The browser's own store; opened once, and again after it could not be. */
export function localStore(): Promise<LocalStore> {
  opened ??= openDB<LocalSchema>('lime-tick', 3, {
    upgrade(database, oldVersion) {
      if (oldVersion < 1) {
        database.createObjectStore('waiting', { keyPath: 'order' }).createIndex('byProject', 'projectId');
        database.createObjectStore('pictures');
      }
      if (oldVersion < 2) {
        database.createObjectStore('drafts', { keyPath: 'order' }).createIndex('byProject', 'projectId');
        database.createObjectStore('history', { keyPath: 'order' }).createIndex('byProject', 'projectId');
      }
      database.createObjectStore('aside', { keyPath: 'order' }).createIndex('byProject', 'projectId');
      database.createObjectStore('chains', { keyPath: ['projectId', 'windowId'] }).createIndex('byProject', 'projectId');
    },
    // A page of a newer version waits for this one to let go.
    blocking(_current, _blocked, event) {
      opened = undefined;
      (event.target as IDBDatabase).close();
    },
    // A page of an earlier version lets go only when it is closed or loaded anew.
    blocked: () => globalThis.dispatchEvent(new Event(STORE_BLOCKED)),
    terminated: () => {
      opened = undefined;
    },
  }).catch((error: unknown) => {
    opened = undefined;
    throw error;
  });
  return opened;
}

/** Pictures that found no room in the store: held in the page's memory until they are sent. */
const held = new Map<Digest, Uint8Array>();

/** Holds a picture in memory. */
export const holdPicture = (digest: Digest, png: Uint8Array): void => void held.set(digest, png);

/** A picture that is held in memory. */
export const heldPicture = (digest: Digest): Uint8Array | undefined => held.get(digest);

/** Lets go of a picture that is on the server by now. */
export const letGoOfPicture = (digest: Digest): void => void held.delete(digest);
