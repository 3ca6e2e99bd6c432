import { create } from 'zustand';
import { effectWords, type Finish } from '@/core/document/finish';
import type { Project, Shot, Size } from '@/core/document/model';
import { pictureBytes, READY_BESIDE_CLIPS_BYTES, READY_CLIP_FRAMES_BYTES, readyPicturesBytes } from '@/core/document/size';
import { once, remembered } from '@/core/remembered';
import { showsClip } from '@/core/render/clipPicture';
import { finishOf } from '@/core/render/renderPlan';
import { layersAt } from '@/core/render/shotRuns';
import { leavingLevels, type PictureStack, type StackLayer } from '@/core/render/stacks';
import { ReadyPictures } from '@/features/clock/readyPictures';
import { pictures } from '@/features/project/pictures';
import { whenClosed } from '@/features/sync/projectStore';
import { compositePreview, letGoOfCompositing } from '@/workers/client';

/** Composited stacks by key, kept few enough for any machine; those with frames of clips apart, so that they don't drive out what is shown again and again. */
const ofDrawings = new ReadyPictures();
const ofClips = new ReadyPictures();
const heldWith = (stack: PictureStack): ReadyPictures => (showsClip(stack) ? ofClips : ofDrawings);
const coming = new Map<string, Promise<ImageBitmap>>();

/** Room for what is ready of a project, and for the decoded pictures it is laid of, in bytes. */
type ReadyRoom = { readonly ofDrawingsBytes: number; readonly ofClipsBytes: number; readonly picturesBytes: number };

/** How pictures are made ready: in the film's size or its sides divided by `shrink`, with the finish that is seen while working. */
export type PreviewSize = Size & { readonly shrink: number; readonly finish: Finish; readonly room: ReadyRoom };

/** Sizes differ by so much at least, so that a window that is drawn a little wider wants nothing made again. */
const SHRINK_STEP = 0.25;
/** Made smaller still, thin lines would be lost between pixels: the browser shows the rest of it small, which it does better and slower. */
const MOST_SHRINK = 2;

/** By how much the sides of a film's pictures can be shorter where they are so many pixels of the screen wide: never seen larger than made. */
export const shrinkFor = (widthPx: number, shownPx: number): number =>
  shownPx <= 0 ? 1 : Math.min(MOST_SHRINK, Math.max(1, Math.floor(widthPx / shownPx / SHRINK_STEP) * SHRINK_STEP));

/** What is laid is kept as it was laid: of the pictures it is laid of, only what lies in many, like a background, is wanted again. */
const PICTURES_PART = 3;

const roomFor = remembered(({ reel, shots }: Project): ReadyRoom => {
  const drawings = shots.reduce((sum, { levels }) => levels.reduce((inShot, level) => inShot + level.drawings.length, sum), 0);
  const ofDrawingsBytes = readyPicturesBytes(drawings);
  const picturesBytes = Math.floor(ofDrawingsBytes / PICTURES_PART);
  return reel.items.some(({ kind }) => kind === 'clip')
    ? { ofDrawingsBytes: READY_BESIDE_CLIPS_BYTES, ofClipsBytes: READY_CLIP_FRAMES_BYTES, picturesBytes }
    : { ofDrawingsBytes, ofClipsBytes: 0, picturesBytes };
});

export const fullSize = (project: Project): PreviewSize => ({
  ...project.size,
  shrink: 1,
  finish: finishOf(project, true),
  room: roomFor(project),
});
/** No larger than is seen: with its sides divided by `shrink`. */
export const shownSize = (project: Project, shrink: number): PreviewSize => ({ ...fullSize(project), shrink });

/** As pictures are played: as they are shown, and in the lighter preview no larger than half the film's size. */
export const playedSize = (project: Project, shrink: number, isLighter: boolean): PreviewSize =>
  shownSize(project, isLighter ? MOST_SHRINK : shrink);

/** What a shot shows at a frame as it will leave: visible levels, no guides. */
export const leavingLayers = (shot: Shot, frame: number): readonly StackLayer[] => layersAt(leavingLevels(shot), frame);

/** The effects over a stack, told apart by what they do. */
const finishKey = remembered((finish: Finish) => finish.map(effectWords).join('; '));
const madeFor = ({ width, height, shrink }: PreviewSize) => `${width}x${height}/${shrink}`;
const keyOf = (size: PreviewSize, { key, finished }: PictureStack) => `${madeFor(size)} ${finished ? finishKey(size.finish) : ''} ${key}`;

/** How often what is ready has changed, for whoever shows it. */
export const useReadyStore = create<{ readonly changes: number }>(() => ({ changes: 0 }));
const changed = () => useReadyStore.setState(({ changes }) => ({ changes: changes + 1 }));

/** Whether the composite of a stack is ready, without counting as its use. */
export const isReady = (size: PreviewSize, stack: PictureStack): boolean => heldWith(stack).peek(keyOf(size, stack)) !== undefined;

/**
 * The composite of a stack if it is ready, as it is shown while playing: that counts as no use. What was made ready for later
 * would else be older than all that has been shown, and be let go just before it is due.
 */
export const playedPreview = (size: PreviewSize, stack: PictureStack): ImageBitmap | undefined => heldWith(stack).peek(keyOf(size, stack));

/** The composite of a stack if it is ready. */
export const readyPreview = (size: PreviewSize, stack: PictureStack): ImageBitmap | undefined => heldWith(stack).get(keyOf(size, stack));

/** Bytes a composite of this size takes. */
const bytesOf = (size: PreviewSize): number => pictureBytes(size) / size.shrink ** 2;

/** So many are kept however large they are: playing needs some ahead. */
const LEAST_HELD = 12;

/** How many composites of a size are kept at most, of those with frames of clips and of all others: how far it makes sense to read ahead. */
export type PreviewsHeld = { readonly ofDrawings: number; readonly ofClips: number };

export function previewsHeld(size: PreviewSize): PreviewsHeld {
  const numberIn = (bytes: number) => Math.max(LEAST_HELD, Math.floor(bytes / bytesOf(size)));
  return { ofDrawings: numberIn(size.room.ofDrawingsBytes), ofClips: numberIn(size.room.ofClipsBytes) };
}

const composite = ({ width, height, shrink, finish, room }: PreviewSize, stack: PictureStack, ahead: boolean): Promise<ImageBitmap> =>
  compositePreview({ width, height }, stack, 'paper', { shrink, finish, ahead, picturesBytes: room.picturesBytes });

/** The composite of a stack on white paper, used at once and kept nowhere: whole pictures are too large to keep each that was looked at. */
export async function onceComposited(size: PreviewSize, stack: PictureStack, use: (bitmap: ImageBitmap) => void): Promise<void> {
  const bitmap = await composite(size, stack, false);
  use(bitmap);
  bitmap.close();
}

/** The composite of a stack on white paper, for now or to be ready `ahead`; rejects when a picture is missing. */
export function preview(size: PreviewSize, stack: PictureStack, ahead = false): Promise<ImageBitmap> {
  const ready = readyPreview(size, stack);
  if (ready) return Promise.resolve(ready);
  const key = keyOf(size, stack);
  let composing = coming.get(key);
  if (!composing) {
    composing = composite(size, stack, ahead)
      .then((bitmap) => {
        const mostBytes = previewsHeld(size)[showsClip(stack) ? 'ofClips' : 'ofDrawings'] * bytesOf(size);
        heldWith(stack).add(key, bitmap, madeFor(size), mostBytes);
        changed();
        return bitmap;
      })
      .finally(() => coming.delete(key));
    coming.set(key, composing);
  }
  return composing;
}

/** How many need the memory elsewhere. */
let needs = 0;

/** Gives back every composite. */
function letGoOfHeld(): void {
  ofDrawings.clear();
  ofClips.clear();
  changed();
}
whenClosed(letGoOfHeld);

/** Whether nothing is made ready that nobody asked for, since the memory is needed elsewhere. */
export const previewsRest = (): boolean => needs > 0;

/** Gives back the memory of all that was made ready, and makes nothing ready unasked until whoever asked for it calls what is returned. */
export async function restPreviews(): Promise<() => void> {
  needs++;
  letGoOfHeld();
  pictures.trim(0);
  const wake = once(() => needs--);
  try {
    await letGoOfCompositing();
    return wake;
  } catch (error) {
    wake();
    throw error;
  }
}
