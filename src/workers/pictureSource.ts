import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Step } from '@/core/edit/step';
import type { Digest, DrawingId, LevelId, ShotId } from '@/core/sheet/document';

/*
 * What the browser keeps until the server has acknowledged it: steps in the order they were made, the
 * pictures they name, and strokes that are no picture yet; and what can be undone. It lives in IndexedDB,
 * where it outlasts a crashed tab, and is read by the page and by workers alike.
 */

/** A step waiting to be acknowledged. Once it is being sent it has the sending's id and base revision. */
export type WaitingStep = {
  readonly order: number;
  readonly projectId: string;
  readonly step: Step;
  readonly pictures: readonly Digest[];
  readonly sending: { readonly batchId: string; readonly baseRevision: number } | null;
};

/** A stroke as it was drawn, in pixels of the picture: enough to draw it again. */
export type InkStroke = {
  readonly ink: {
    readonly kind: 'ink' | 'eraser';
    readonly colour: string;
    readonly sizePx: number;
    readonly hardnessPercent: number;
    readonly smoothingPercent: number;
    readonly taperPx: number;
  };
  readonly hasPressure: boolean;
  readonly points: readonly { readonly x: number; readonly y: number; readonly pressure: number }[];
};

/** A finished stroke whose picture is not made yet. */
export type StrokeDraft = {
  readonly order: number;
  readonly projectId: string;
  readonly target: { readonly shotId: ShotId; readonly levelId: LevelId; readonly drawingId: DrawingId };
  readonly stroke: InkStroke;
};

/** An act that can be undone, or done again. */
export type HistoryEntry = {
  readonly order: number;
  readonly projectId: string;
  readonly stack: 'undo' | 'redo';
  readonly step: Step;
  readonly words: string;
};

interface LocalSchema extends DBSchema {
  drafts: { key: number; value: StrokeDraft; indexes: { byProject: string } };
  history: { key: number; value: HistoryEntry; indexes: { byProject: string } };
  waiting: { key: number; value: WaitingStep; indexes: { byProject: string } };
  pictures: { key: Digest; value: Uint8Array };
}

let opened: Promise<IDBPDatabase<LocalSchema>> | undefined;

/** The browser's own store; opened once. */
export function localStore(): Promise<IDBPDatabase<LocalSchema>> {
  opened ??= openDB<LocalSchema>('lime-tick', 2, {
    upgrade(database, oldVersion) {
      if (oldVersion < 1) {
        database.createObjectStore('waiting', { keyPath: 'order' }).createIndex('byProject', 'projectId');
        database.createObjectStore('pictures');
      }
      database.createObjectStore('drafts', { keyPath: 'order' }).createIndex('byProject', 'projectId');
      database.createObjectStore('history', { keyPath: 'order' }).createIndex('byProject', 'projectId');
    },
  });
  return opened;
}

/** A picture that is nowhere: not waiting here and not on the server. */
export class PictureMissing extends Error {
  override readonly name = 'PictureMissing';
}

/** How many pictures are asked for at once. */
const MOST_AT_ONCE = 24;

type Wanted = { readonly digest: Digest; readonly resolve: (png: Blob) => void; readonly reject: (reason: unknown) => void };
let wanted: Wanted[] = [];

/** PNG files that were asked for before they are needed. */
const ahead = new Map<Digest, Promise<Blob>>();

/** Has PNG files fetched that are needed soon; each is given once, to whoever loads it first. */
export function fetchAhead(digests: Iterable<Digest>): void {
  for (const digest of digests) {
    if (ahead.has(digest)) continue;
    const coming = findPng(digest);
    coming.catch(() => ahead.delete(digest));
    ahead.set(digest, coming);
  }
}

/** The PNG file of a picture: fetched ahead, or from what waits here, else from the server, asked for together with others wanted now. Rejects with PictureMissing, or with another error when the server doesn't answer. */
export function loadPicturePng(digest: Digest): Promise<Blob> {
  const coming = ahead.get(digest);
  if (!coming) return findPng(digest);
  ahead.delete(digest);
  return coming;
}

async function findPng(digest: Digest): Promise<Blob> {
  const local = await (await localStore()).get('pictures', digest);
  if (local) return pngBlob(local);
  return new Promise((resolve, reject) => {
    wanted.push({ digest, resolve, reject });
    if (wanted.length === 1) setTimeout(askServer, 0);
  });
}

const pngBlob = (bytes: Uint8Array) => new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'image/png' });

function askServer(): void {
  const all = wanted;
  wanted = [];
  for (let start = 0; start < all.length; start += MOST_AT_ONCE) {
    const part = all.slice(start, start + MOST_AT_ONCE);
    fetchPictures(part).catch((error: unknown) => {
      for (const each of part) each.reject(error);
    });
  }
}

/** Asks for pictures in one go; see the route for the answer's form: a length and that many bytes for each, 0 for one that is missing. */
async function fetchPictures(part: readonly Wanted[]): Promise<void> {
  const response = await fetch(`/api/pictures?digests=${part.map((each) => each.digest).join('.')}`);
  if (!response.ok) throw new Error(`The server gave no pictures (${response.status}).`);
  const answer = new Uint8Array(await response.arrayBuffer());
  const view = new DataView(answer.buffer);
  let offset = 0;
  for (const { digest, resolve, reject } of part) {
    const sizeBytes = view.getUint32(offset);
    offset += 4;
    if (sizeBytes === 0) reject(new PictureMissing(`The picture ${digest.slice(0, 12)}… is not in the store.`));
    else resolve(pngBlob(answer.subarray(offset, offset + sizeBytes)));
    offset += sizeBytes;
  }
}
