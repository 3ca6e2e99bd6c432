import type { Digest } from '@/core/document/model';
import { giveBack } from '@/workers/giveBack';
import { heldPicture, localStore } from '@/workers/localStore';
import { pictureAtHand } from '@/workers/render/atHand';
import { type StoredPng, storedPng } from '@/workers/render/storedPng';

/** A picture that is nowhere: not waiting here and not on the server. */
export class PictureMissing extends Error {
  override readonly name = 'PictureMissing';
}

/** How many pictures are asked for at once. */
const MOST_AT_ONCE = 24;

type PictureRequest = { readonly digest: Digest; readonly resolve: (png: StoredPng) => void; readonly reject: (reason: unknown) => void };
let wanted: PictureRequest[] = [];

/** PNG files that were asked for before they are needed. */
const ahead = new Map<Digest, Promise<StoredPng>>();

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
export function loadPicturePng(digest: Digest): Promise<StoredPng> {
  const coming = ahead.get(digest);
  if (!coming) return findPng(digest);
  ahead.delete(digest);
  return coming;
}

/**
 * Has one PNG file fetched at this very moment, without waiting for others and for what this browser's own store says, which counts
 * all the same: for what a person looks at next, while the page is busy being made anew.
 */
export function fetchAtOnce(digest: Digest): void {
  if (ahead.has(digest)) return;
  const fromServer = new Promise<StoredPng>((resolve, reject) => {
    fetchPictures([{ digest, resolve, reject }]).catch(reject);
  });
  // What lies here is no server's to refuse.
  fromServer.catch(() => undefined);
  const coming = findHere(digest).then((local) => local ?? fromServer);
  coming.catch(() => ahead.delete(digest));
  ahead.set(digest, coming);
}

/** A picture's PNG file from what waits here or is at hand; null when it is on the server, if anywhere. */
async function findHere(digest: Digest): Promise<StoredPng | null> {
  const local =
    heldPicture(digest) ??
    (await pictureAtHand(digest)) ??
    (await localStore().then(
      (store) => store.get('pictures', digest),
      () => undefined,
    ));
  return local ? storedPng(local) : null;
}

async function findPng(digest: Digest): Promise<StoredPng> {
  const local = await findHere(digest);
  if (local) return local;
  return new Promise((resolve, reject) => {
    wanted.push({ digest, resolve, reject });
    if (wanted.length === 1) setTimeout(askServer, 0);
  });
}

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
async function fetchPictures(part: readonly PictureRequest[]): Promise<void> {
  // The number keeps apart what browsers may have kept of an earlier form, in which missing pictures were kept as missing.
  const response = await fetch(`/api/pictures?form=2&digests=${part.map((each) => each.digest).join('.')}`);
  if (!response.ok || !response.headers.has('lime-tick')) throw new Error(`The server gave no pictures (${response.status}).`);
  const answer = new Uint8Array(await response.arrayBuffer());
  const view = new DataView(answer.buffer);
  let offset = 0;
  for (const { digest, resolve, reject } of part) {
    const sizeBytes = view.getUint32(offset);
    offset += 4;
    if (sizeBytes === 0) reject(new PictureMissing(`The picture ${digest.slice(0, 12)}… is not in the store.`));
    else resolve(storedPng(answer.subarray(offset, offset + sizeBytes)));
    offset += sizeBytes;
  }
  // Every file has its own copy by now.
  giveBack(answer.buffer);
}
