import PQueue from 'p-queue';
import { type Look, lookOf } from '@/workers/render/looks';
import { PictureCache } from '@/workers/render/pictureCache';

/** Whole pictures stay for a moment, the last of them however large: one is seldom wanted in one look alone. */
const MOST_BYTES = 16 * 1024 * 1024;
const pictures = new PictureCache(undefined, MOST_BYTES);
/** One at a time, in the order they were asked for: what is wanted first is asked for first. */
const turns = new PQueue({ concurrency: 1 });

/** A picture in one look; rejects with PictureMissing when it is missing. */
export const lookAt = (look: Look): Promise<ImageBitmap> =>
  turns.add(async () => {
    const whole = await pictures.get(look.digest);
    const shown = await lookOf(whole, look);
    pictures.trim(undefined, 1);
    return shown;
  });

/** Lets go of every picture, once what was asked for before is done. */
export const letGoOfLooks = (): Promise<void> => turns.add(async () => pictures.trim(0));
