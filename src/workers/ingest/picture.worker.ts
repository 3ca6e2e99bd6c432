import { expose, transfer } from 'comlink';
import { filledArea } from '@/core/raster/fill';
import { placeOn } from '@/core/raster/placing';
import { keepAll, keepPart } from '@/workers/ingest/heldPicture';
import type { KeptPicture, PictureWorker } from '@/workers/protocol';
import { decodedPicture } from '@/workers/render/pictureCache';

const handedOver = <Answer>(answer: Answer, picture: KeptPicture | null): Answer =>
  transfer(answer, picture ? [picture.png.buffer as ArrayBuffer] : []);

const worker: PictureWorker = {
  async keep(width, height, rgba, holds = false) {
    const picture = await keepAll({ width, height }, rgba, holds);
    return handedOver(picture, picture);
  },
  async keepPart(base, size, box, rgba) {
    const kept = await keepPart(base, size, box, rgba);
    return handedOver(kept, kept.isHeld ? kept.picture : null);
  },
  async fillArea(size, rgba, x, y, options) {
    const area = filledArea(size, rgba, x, y, options);
    return transfer(area, [area.buffer]);
  },
  async layAnew(digest, { width, height }, laying, anchor) {
    const bitmap = await decodedPicture(digest);
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error('There is no memory for a picture of this size.');
    const place = placeOn(bitmap, { width, height }, laying, anchor);
    context.imageSmoothingQuality = 'high';
    context.drawImage(bitmap, place.x, place.y, place.width, place.height);
    bitmap.close();
    return worker.keep(width, height, context.getImageData(0, 0, width, height).data);
  },
};

expose(worker);
