import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Step } from '@/core/edit/step';
import type { Digest } from '@/core/sheet/document';

/*
 * What the browser keeps until the server has acknowledged it: steps in the order they were made, and
 * the pictures they name. It lives in IndexedDB, where it outlasts a crashed tab, and is read by the
 * page and by workers alike.
 */

/** A step waiting to be acknowledged. Once it is being sent it has the sending's id and base revision. */
export type WaitingStep = {
  readonly order: number;
  readonly projectId: string;
  readonly step: Step;
  readonly pictures: readonly Digest[];
  readonly sending: { readonly batchId: string; readonly baseRevision: number } | null;
};

interface LocalSchema extends DBSchema {
  waiting: { key: number; value: WaitingStep; indexes: { byProject: string } };
  pictures: { key: Digest; value: Uint8Array };
}

let opened: Promise<IDBPDatabase<LocalSchema>> | undefined;

/** The browser's own store; opened once. */
export function localStore(): Promise<IDBPDatabase<LocalSchema>> {
  opened ??= openDB<LocalSchema>('lime-tick', 1, {
    upgrade(database) {
      database.createObjectStore('waiting', { keyPath: 'order' }).createIndex('byProject', 'projectId');
      database.createObjectStore('pictures');
    },
  });
  return opened;
}

/** A picture that is nowhere: not waiting here and not on the server. */
export class PictureMissing extends Error {
  override readonly name = 'PictureMissing';
}

/** The PNG file of a picture: from what waits here, else from the server. Throws PictureMissing. */
export async function loadPicturePng(digest: Digest): Promise<Blob> {
  const local = await (await localStore()).get('pictures', digest);
  if (local) return new Blob([local as Uint8Array<ArrayBuffer>], { type: 'image/png' });
  const response = await fetch(`/api/pictures/${digest}`);
  if (!response.ok) throw new PictureMissing(`The picture ${digest.slice(0, 12)}… can't be had (${response.status}).`);
  return response.blob();
}
