import { expose } from 'comlink';
import { Inspector, type PictureLookup } from '@/core/analysis/inspector';
import type { Digest, Size } from '@/core/document/model';
import { type InspectWorker, inspectionSchema } from '@/workers/protocol';
import { fetchAhead, loadPicturePng, PictureMissing } from '@/workers/render/pictureSource';

let canvas: OffscreenCanvas | undefined;
let stopped = 0;
let turn: Promise<unknown> = Promise.resolve();

/** A stored picture's pixels, or why it has none; null when the server doesn't answer, which says nothing of the picture. */
async function look(digest: Digest, { width, height }: Size): Promise<PictureLookup> {
  let png: Blob;
  try {
    png = await loadPicturePng(digest);
  } catch (error) {
    return error instanceof PictureMissing ? { trouble: 'missing' } : null;
  }
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(png, { colorSpaceConversion: 'none' });
  } catch {
    return { trouble: 'broken' };
  }
  if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory to check a picture of this size.');
  context.clearRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return { rgba: context.getImageData(0, 0, width, height).data };
}

const inspector = new Inspector(look, fetchAhead, () => new Promise((resolve) => setTimeout(resolve)));

const worker: InspectWorker = {
  inspect(inspection, onProgress) {
    const checked = inspectionSchema.parse(inspection);
    const asked = stopped;
    // One at a time: they share a canvas and what is remembered.
    const result = turn.then(() => {
      if (asked !== stopped) return null;
      return inspector.inspect(
        checked,
        (done, all) => void onProgress(done, all),
        () => asked !== stopped,
      );
    });
    turn = result.catch(() => undefined);
    return result;
  },
  stop() {
    stopped++;
  },
};

expose(worker);
