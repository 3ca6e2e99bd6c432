import { layersAt, type StackLayer, stackKey } from '@/core/reel/stacks';
import type { Shot, Size } from '@/core/sheet/document';
import { pictureBytes, READY_PICTURES_BYTES } from '@/core/sheet/size';
import { pictures } from '@/features/project/pictures';
import { compositePreview, letGoOfCompositing } from '@/workers/client';

/** Composited stacks by key, the longest unused let go; kept small enough for any machine. */
const held = new Map<string, ImageBitmap>();
const coming = new Map<string, Promise<ImageBitmap>>();
let heldBytes = 0;

/** What a shot shows at a frame as it will leave: visible levels, no guides. */
export const leavingLayers = (shot: Shot, frame: number): readonly StackLayer[] =>
  layersAt(
    shot.levels.filter((level) => level.visible && level.opacityPercent > 0 && level.kind !== 'guide'),
    frame,
  );

const keyOf = (size: Size, layers: readonly StackLayer[]) => `${size.width}x${size.height} ${stackKey(layers)}`;

/** The composite of a stack if it is ready. */
export function readyPreview(size: Size, layers: readonly StackLayer[]): ImageBitmap | undefined {
  const key = keyOf(size, layers);
  const bitmap = held.get(key);
  if (bitmap) {
    held.delete(key);
    held.set(key, bitmap);
  }
  return bitmap;
}

/** The composite of a stack on white paper; rejects when a picture is missing. */
export function preview(size: Size, layers: readonly StackLayer[]): Promise<ImageBitmap> {
  const ready = readyPreview(size, layers);
  if (ready) return Promise.resolve(ready);
  const key = keyOf(size, layers);
  let composing = coming.get(key);
  if (!composing) {
    composing = compositePreview(size, layers, 'paper')
      .then((bitmap) => {
        held.set(key, bitmap);
        heldBytes += bitmap.width * bitmap.height * 4;
        for (const [oldest, old] of held) {
          if (heldBytes <= READY_PICTURES_BYTES || oldest === key) break;
          held.delete(oldest);
          heldBytes -= old.width * old.height * 4;
        }
        return bitmap;
      })
      .finally(() => coming.delete(key));
    coming.set(key, composing);
  }
  return composing;
}

let resting = false;

/** Whether nothing is made ready that nobody asked for, since the memory is needed elsewhere. */
export const previewsRest = (): boolean => resting;

/** Gives back the memory of all that was made ready, and makes nothing ready unasked until `wakePreviews`. */
export async function restPreviews(): Promise<void> {
  resting = true;
  for (const bitmap of held.values()) bitmap.close();
  held.clear();
  heldBytes = 0;
  pictures.trim(0);
  await letGoOfCompositing();
}

export const wakePreviews = (): void => {
  resting = false;
};

/** How many composites of this size are kept at most: how far it makes sense to read ahead. */
export const previewsHeld = (size: Size): number => Math.max(2, Math.floor(READY_PICTURES_BYTES / pictureBytes(size)));
