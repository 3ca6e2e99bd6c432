import { type Look, lookOf } from '@/workers/render/looks';
import { LookTurns } from '@/workers/render/lookTurns';
import { PictureCache } from '@/workers/render/pictureCache';
import { fetchAhead } from '@/workers/render/pictureSource';

/** Whole pictures stay for a moment, the last of them however large: one is seldom wanted in one look alone. */
const MOST_BYTES = 16 * 1024 * 1024;
const pictures = new PictureCache(undefined, MOST_BYTES);
const turns = new LookTurns((digest) => pictures.get(digest), lookOf);

/** A picture in one look; rejects with PictureMissing when it is missing. */
export async function lookAt(look: Look): Promise<ImageBitmap> {
  // Its file is fetched, together with others, while those before it have their turns.
  if (!turns.isWaiting(look.digest) && !pictures.isAskedFor(look.digest)) fetchAhead([look.digest]);
  try {
    return await turns.look(look);
  } finally {
    pictures.trim(undefined, 1);
  }
}

/** Lets go of every picture, once what was asked for before is done. */
export const letGoOfLooks = (): void => turns.whenAtRest(() => pictures.trim(0));
