import { expose, transfer } from 'comlink';
import { boundsOfPixels } from '@/core/raster/bounds';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import { filledArea } from '@/core/raster/fill';
import { placeOn } from '@/core/raster/placing';
import { keptPng } from '@/workers/ingest/keptPng';
import type { PictureWorker } from '@/workers/protocol';
import { decodedPicture } from '@/workers/render/pictureCache';

const worker: PictureWorker = {
  async keep(width, height, rgba) {
    canonicalisePixels(rgba);
    if (boundsOfPixels(width, height, rgba) === null) return null;
    const digest = await digestOfPixels(width, height, rgba);
    const png = await keptPng(width, height, new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.byteLength));
    return transfer({ digest, png }, [png.buffer]);
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
