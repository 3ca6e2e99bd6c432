import { PictureCache, PictureMissing } from '@/workers/client';

/** How often the page gives back the memory of pictures it has not shown for long. */
const TRIM_MILLISECONDS = 2000;

/** Decoded pictures of the page, shared by everything that shows drawings. */
export const pictures = new PictureCache();

// Painting takes its pictures and draws them within one task, so between tasks none is in use but those just fetched, which are the last to go.
if (typeof window !== 'undefined') setInterval(() => pictures.trim(), TRIM_MILLISECONDS);

/** Frames that are only passed on the way are not fetched: pictures are asked for once nothing has changed for this long. */
export const STILL_MILLISECONDS = 40;

/** Why a picture can't be had: the server doesn't answer, which is asked again, or it has no such picture. */
export type PictureTrouble = 'away' | 'missing';

const ASK_AGAIN_MILLISECONDS = 1500;

/**
 * Draws with pictures at once when they are there, else when they have come, unless what is returned is
 * called before: something else is to be drawn then. A server that doesn't answer is asked again until it does.
 */
export function drawWith(
  digests: readonly string[],
  draw: (bitmaps: readonly ImageBitmap[]) => void,
  failed: (trouble: PictureTrouble) => void = () => undefined,
): () => void {
  const ready = digests.map((digest) => pictures.peek(digest));
  if (ready.every((bitmap) => bitmap !== undefined)) {
    draw(ready);
    return () => undefined;
  }
  let current = true;
  const ask = () => {
    Promise.all(digests.map((digest) => pictures.get(digest))).then(
      (bitmaps) => current && draw(bitmaps),
      (reason: unknown) => {
        if (!current) return;
        failed(reason instanceof PictureMissing ? 'missing' : 'away');
        if (!(reason instanceof PictureMissing)) timer = setTimeout(ask, ASK_AGAIN_MILLISECONDS);
      },
    );
  };
  let timer = setTimeout(ask, STILL_MILLISECONDS);
  return () => {
    current = false;
    clearTimeout(timer);
  };
}
