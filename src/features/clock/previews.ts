import { create } from 'zustand';
import type { ColourRange } from '@/core/document/checks';
import type { Project, Shot, Size } from '@/core/document/model';
import { pictureBytes, READY_PICTURES_BYTES } from '@/core/document/size';
import { layersAt } from '@/core/render/shotRuns';
import { leavingLevels, type StackLayer, stackKey } from '@/core/render/stacks';
import { pictures } from '@/features/project/pictures';
import { whenClosed } from '@/features/sync/projectStore';
import { compositePreview, letGoOfCompositing } from '@/workers/client';

/** Composited stacks by key, the longest unused let go; kept small enough for any machine. */
const held = new Map<string, ImageBitmap>();
const coming = new Map<string, Promise<ImageBitmap>>();
let heldBytes = 0;

/** How pictures are made ready: in the film's size or its sides divided by `shrink`, their colours held as they will leave. */
export type PreviewSize = Size & { readonly shrink: number; readonly hold: ColourRange | null };

export const fullSize = ({ size, checks }: Project): PreviewSize => ({ ...size, shrink: 1, hold: checks.holdColours });
export const halfSize = ({ size, checks }: Project): PreviewSize => ({ ...size, shrink: 2, hold: checks.holdColours });

/** What a shot shows at a frame as it will leave: visible levels, no guides. */
export const leavingLayers = (shot: Shot, frame: number): readonly StackLayer[] => layersAt(leavingLevels(shot), frame);

const keyOf = (size: PreviewSize, layers: readonly StackLayer[]) =>
  `${size.width}x${size.height}/${size.shrink} ${size.hold ? `${size.hold.from}-${size.hold.to} ` : ''}${stackKey(layers)}`;

/** How often what is ready has changed, for whoever shows it. */
export const useReadyStore = create<{ readonly changes: number }>(() => ({ changes: 0 }));
const changed = () => useReadyStore.setState(({ changes }) => ({ changes: changes + 1 }));

/** Whether the composite of a stack is ready, without counting as its use. */
export const isReady = (size: PreviewSize, layers: readonly StackLayer[]): boolean => held.has(keyOf(size, layers));

/** The composite of a stack if it is ready. */
export function readyPreview(size: PreviewSize, layers: readonly StackLayer[]): ImageBitmap | undefined {
  const key = keyOf(size, layers);
  const bitmap = held.get(key);
  if (bitmap) {
    held.delete(key);
    held.set(key, bitmap);
  }
  return bitmap;
}

/** The composite of a stack on white paper; rejects when a picture is missing. */
export function preview(size: PreviewSize, layers: readonly StackLayer[]): Promise<ImageBitmap> {
  const ready = readyPreview(size, layers);
  if (ready) return Promise.resolve(ready);
  const key = keyOf(size, layers);
  let composing = coming.get(key);
  if (!composing) {
    composing = compositePreview({ width: size.width, height: size.height }, layers, 'paper', { shrink: size.shrink, hold: size.hold })
      .then((bitmap) => {
        held.set(key, bitmap);
        heldBytes += bitmap.width * bitmap.height * 4;
        for (const [oldest, old] of held) {
          if (heldBytes <= READY_PICTURES_BYTES || oldest === key) break;
          held.delete(oldest);
          heldBytes -= old.width * old.height * 4;
          // Whoever draws one does so at once: what is let go is given back now, not in a pause some time later.
          old.close();
        }
        changed();
        return bitmap;
      })
      .finally(() => coming.delete(key));
    coming.set(key, composing);
  }
  return composing;
}

let resting = false;

/** Gives back every composite. */
function letGoOfHeld(): void {
  for (const bitmap of held.values()) bitmap.close();
  held.clear();
  heldBytes = 0;
  changed();
}
whenClosed(letGoOfHeld);

/** Whether nothing is made ready that nobody asked for, since the memory is needed elsewhere. */
export const previewsRest = (): boolean => resting;

/** Gives back the memory of all that was made ready, and makes nothing ready unasked until `wakePreviews`. */
export async function restPreviews(): Promise<void> {
  resting = true;
  letGoOfHeld();
  pictures.trim(0);
  await letGoOfCompositing();
}

export const wakePreviews = (): void => {
  resting = false;
};

/** How many composites of this size are kept at most: how far it makes sense to read ahead. */
export const previewsHeld = (size: PreviewSize): number =>
  Math.max(2, Math.floor((READY_PICTURES_BYTES * size.shrink ** 2) / pictureBytes(size)));
