import { expose } from 'comlink';
import { compiledMeasures } from '@/core/analysis/compiledMeasures';
import type { PictureTrouble } from '@/core/analysis/facts';
import { type Inspection, Inspector, type PictureLookup } from '@/core/analysis/inspector';
import { type FilmLookedAt, unpackFilm } from '@/core/analysis/packedFilm';
import type { Digest, Size } from '@/core/document/model';
import { type ClipPicture, readClipPicture, showsClip } from '@/core/render/clipPicture';
import type { PictureName } from '@/core/render/stacks';
import { giveBack } from '@/workers/giveBack';
import { type InspectWorker, packedFilmSchema } from '@/workers/protocol';
import { clipFrames } from '@/workers/render/clipFrames';
import { paceDecoders } from '@/workers/render/pacedDecoder';
import { fetchAhead, loadPicturePng, PictureMissing } from '@/workers/render/pictureSource';
import { decodeStored, type StoredPng } from '@/workers/render/storedPng';

paceDecoders();

let canvas: OffscreenCanvas | undefined;
let stopped = 0;
/** Until when looking waits, by performance.now(). */
let heldUntilMilliseconds = 0;
let turn: Promise<unknown> = Promise.resolve();

/** Decoding a clip to look at it takes what decoding it for the eye needs: it waits, and gives back its room, while somebody waits for a picture. */
async function untilCalm(): Promise<void> {
  if (heldUntilMilliseconds > performance.now()) await clipFrames.letGo();
  for (let left = heldUntilMilliseconds - performance.now(); left > 0; left = heldUntilMilliseconds - performance.now())
    await new Promise((resolve) => setTimeout(resolve, left));
}

/** Originals that could not be decoded, so that each is not asked for frame by frame; forgotten when looking begins again. */
const undecodable = new Set<string>();

/** A frame of a clip; missing when its original can't be decoded. */
async function lookAtClip(clip: ClipPicture, size: Size): Promise<PictureLookup> {
  if (undecodable.has(clip.original)) return { trouble: 'missing' };
  try {
    return { rgba: await clipFrames.pixels(clip, size) };
  } catch (error) {
    if (!(error instanceof PictureMissing)) throw error;
    undecodable.add(clip.original);
    return { trouble: 'missing' };
  }
}

/** A stored picture, or why there is none; null when the server doesn't answer, which says nothing of the picture. */
async function storedPicture(digest: Digest): Promise<ImageBitmap | { readonly trouble: PictureTrouble } | null> {
  let png: StoredPng;
  try {
    png = await loadPicturePng(digest);
  } catch (error) {
    return error instanceof PictureMissing ? { trouble: 'missing' } : null;
  }
  return decodeStored(png).catch(() => ({ trouble: 'broken' }) as const);
}

/** The pixels of the drawing that was looked at last: they are measured before the next is asked for, and kept by nobody. */
let lookedAt: ArrayBuffer | null = null;

function letGoOfLookedAt(): void {
  if (lookedAt) giveBack(lookedAt);
  lookedAt = null;
}

/** The pixels of a stored picture or of a frame of a clip, or why it has none. */
async function look(picture: PictureName, size: Size): Promise<PictureLookup> {
  letGoOfLookedAt();
  const clip = readClipPicture(picture);
  if (clip) {
    await untilCalm();
    return lookAtClip(clip, size);
  }
  const bitmap = await storedPicture(picture);
  if (!(bitmap instanceof ImageBitmap)) return bitmap;
  const { width, height } = size;
  if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory to check a picture of this size.');
  context.clearRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const rgba = context.getImageData(0, 0, width, height).data;
  lookedAt = rgba.buffer;
  return { rgba };
}

const hasClips = ({ plan }: FilmLookedAt) => plan?.stacks.some(showsClip) ?? false;

const inspector = new Inspector(look, fetchAhead, () => new Promise((resolve) => setTimeout(resolve)));

const worker: InspectWorker = {
  inspect(film, onProgress, onDrawings) {
    const checked = unpackFilm(packedFilmSchema.parse(film));
    const asked = stopped;
    const isStopped = () => asked !== stopped;
    const lookThrough = (clips: Inspection['clips']) =>
      inspector.inspect({ ...checked, clips }, (done, all) => void onProgress(done, all), isStopped);
    // One at a time: they share a canvas and what is remembered.
    const result = turn.then(async () => {
      if (isStopped()) return null;
      undecodable.clear();
      if (hasClips(checked)) {
        const ofDrawings = await lookThrough('later');
        if (!ofDrawings) return null;
        onDrawings(ofDrawings);
      }
      return lookThrough('decoded');
    });
    // What decoding a clip and measuring take is given back: once all is looked at, it may be long until it is wanted again.
    turn = result
      .finally(() => {
        compiledMeasures.letGo();
        letGoOfLookedAt();
        return clipFrames.letGo();
      })
      .catch(() => undefined);
    return result;
  },
  hold(milliseconds) {
    heldUntilMilliseconds = performance.now() + milliseconds;
  },
  stop() {
    stopped++;
    heldUntilMilliseconds = 0;
  },
};

expose(worker);
