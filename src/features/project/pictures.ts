import type { Digest } from '@/core/document/model';
import { isClipPicture } from '@/core/render/clipPicture';
import { serverRetryer } from '@/features/sync/server';
import { clipFrame, decodedPicture, fetchAtOnce, type Look, lookOf, PictureCache, PictureMissing, shownPicture } from '@/workers/client';

/** How often the page gives back the memory of pictures it has not shown for long. */
const TRIM_MILLISECONDS = 2000;
const MOST_LOOK_BYTES = 128 * 1024 * 1024;

/** Frames of clips are shown small alone, no wider than this. */
const CLIP_WIDTH_PX = 320;

export type { Look } from '@/workers/client';

/** Decoded pictures of the page, shared by everything that shows drawings. */
export const pictures = new PictureCache((name) => (isClipPicture(name) ? clipFrame(name, CLIP_WIDTH_PX) : decodedPicture(name)));

/** Has a picture of a drawing come that is looked at next, without waiting for anything; one that doesn't come is told by whoever shows it. */
export function askAtOnceFor(picture: Digest): void {
  if (isClipPicture(picture) || pictures.isAskedFor(picture)) return;
  fetchAtOnce(picture);
  void pictures.get(picture).catch(() => undefined);
}

/*
 * A page that shows a large picture small must make it small each time it is painted, which costs more than
 * all else. So what is shown small is kept small.
 */
const looks = new Map<string, ImageBitmap>();
let lookBytes = 0;

const keyOf = ({ digest, widthPx, tint = '', linesOnly = false }: Look) => `${digest}@${widthPx}${tint}${linesOnly ? 'lines' : ''}`;

function peekLook(look: Look): ImageBitmap | undefined {
  const key = keyOf(look);
  const bitmap = looks.get(key);
  if (bitmap) {
    looks.delete(key);
    looks.set(key, bitmap);
  }
  return bitmap;
}

/** Made off the page's thread, or here: of a clip's frame, which comes small, and of what is on this page alone. */
async function makeLook(look: Look): Promise<ImageBitmap> {
  if (!isClipPicture(look.digest)) {
    const shown = await shownPicture(look).catch(() => null);
    if (shown) return shown;
  }
  return lookOf(await pictures.get(look.digest), look);
}

async function getLook(look: Look): Promise<ImageBitmap> {
  const ready = peekLook(look);
  if (ready) return ready;
  const bitmap = await makeLook(look);
  const before = peekLook(look);
  if (before) {
    bitmap.close();
    return before;
  }
  looks.set(keyOf(look), bitmap);
  lookBytes += bitmap.width * bitmap.height * 4;
  return bitmap;
}

function trimLooks(): void {
  for (const [key, bitmap] of looks) {
    if (lookBytes <= MOST_LOOK_BYTES) return;
    looks.delete(key);
    lookBytes -= bitmap.width * bitmap.height * 4;
    bitmap.close();
  }
}

// Painting takes its pictures and draws them within one task, so between tasks none is in use but those just fetched, which are the last to go.
if (typeof window !== 'undefined') {
  setInterval(() => {
    pictures.trim();
    trimLooks();
  }, TRIM_MILLISECONDS);
}

/** The picture as it is shown, if it is ready. */
export const readyLook = peekLook;

/** What is likely to be looked at next: pictures as they are shown together, and the one among them that would be drawn on. */
export type Next = { readonly looks: readonly Look[]; readonly drawnOn: Digest | undefined };

/** Has made ready what is likely to be looked at, one after another until it is told to stop; a picture that is missing is told when it is shown. */
export async function makeReady(places: readonly Next[], stop: AbortSignal): Promise<void> {
  for (const { looks, drawnOn } of places) {
    if (stop.aborted) return;
    await Promise.allSettled([...looks.map(getLook), ...(drawnOn && !isClipPicture(drawnOn) ? [pictures.get(drawnOn)] : [])]);
  }
}

/** Frames that are only passed on the way are not fetched: pictures are asked for once nothing has changed for this long, unless told otherwise. */
export const STILL_MILLISECONDS = 40;

/** How long the drawing that is drawn on waits, which everything else makes way for, and how long what only shines through does. */
export const FIRST_MILLISECONDS = 10;
export const LAST_MILLISECONDS = 80;
/** Small pictures beside the work wait longest. */
export const BESIDE_MILLISECONDS = 140;

/** Why a picture is missing: the server doesn't answer, which is asked again, or it has no such picture. */
export type ShownTrouble = 'away' | 'missing';

/** How often a picture that is in no store is asked for again: it may be on its way from another window. */
const MOST_ASKED = 4;
const MISSING_MILLISECONDS = 1500;

/**
 * Draws with pictures at once when they are there, else when they have come, unless what is returned is
 * called before: something else is to be drawn then. A server that doesn't answer is asked again until it does.
 */
export function drawWith(
  wanted: readonly (Digest | Look)[],
  draw: (bitmaps: readonly ImageBitmap[]) => void,
  failed: (trouble: ShownTrouble) => void = () => undefined,
  afterMilliseconds = STILL_MILLISECONDS,
): () => void {
  const ready = wanted.map((each) => (typeof each === 'string' ? pictures.peek(each) : peekLook(each)));
  if (ready.every((bitmap) => bitmap !== undefined)) {
    draw(ready);
    return () => undefined;
  }
  let current = true;
  let asked = 0;
  const ask = () => {
    asked++;
    Promise.all(wanted.map((each) => (typeof each === 'string' ? pictures.get(each) : getLook(each)))).then(
      (bitmaps) => current && draw(bitmaps),
      (reason: unknown) => {
        if (!current) return;
        const missing = reason instanceof PictureMissing;
        if (missing && asked < MOST_ASKED) {
          timer = setTimeout(ask, MISSING_MILLISECONDS);
          return;
        }
        failed(missing ? 'missing' : 'away');
        if (!missing) void serverRetryer.wait().then(() => current && ask());
      },
    );
  };
  let timer = setTimeout(ask, afterMilliseconds);
  return () => {
    current = false;
    clearTimeout(timer);
  };
}
