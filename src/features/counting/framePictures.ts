import { countingDesk } from '@/workers/client';

/* Pictures of frames, as they were decoded for strips and large views; the latest are remembered. */

const MOST_REMEMBERED = 160;
const remembered = new Map<string, Promise<ImageBitmap | null>>();

/** Whose frame it is: a plan's, its drawings' alone, or a thing's on the desk. */
export type Side = { readonly kind: 'plan' | 'drawings' | 'thing'; readonly id: string };

/** A frame (from 0) as a picture no wider than told; null where it can't be decoded. */
export function framePicture({ kind, id }: Side, frame: number, mostWidthPx: number): Promise<ImageBitmap | null> {
  const key = `${kind} ${id} ${frame} ${mostWidthPx}`;
  const known = remembered.get(key);
  if (known) {
    remembered.delete(key);
    remembered.set(key, known);
    return known;
  }
  const asked =
    kind === 'thing'
      ? countingDesk.picture(id, frame, mostWidthPx)
      : countingDesk.pictureOfPlan(id, kind === 'drawings', frame, mostWidthPx);
  const made = asked.catch(() => null);
  remembered.set(key, made);
  for (const oldest of remembered.keys()) {
    if (remembered.size <= MOST_REMEMBERED) break;
    remembered.delete(oldest);
  }
  return made;
}

/** Forgets a plan's pictures, since it is another one now. */
export function forgetPictures(): void {
  remembered.clear();
}
