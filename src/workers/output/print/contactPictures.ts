import type { Digest } from '@/core/document/model';
import { loadPicturePng, PictureMissing } from '@/workers/render/pictureSource';
import { decodeStored, type StoredPng } from '@/workers/render/storedPng';

/** A stored picture no wider than told; null when it is missing. Rejects when the server doesn't answer. */
export async function smallPicture(picture: Digest, mostWidthPx: number): Promise<ImageBitmap | null> {
  let png: StoredPng;
  try {
    png = await loadPicturePng(picture);
  } catch (error) {
    if (error instanceof PictureMissing) return null;
    throw error;
  }
  const whole = await decodeStored(png);
  if (whole.width <= mostWidthPx) return whole;
  const resizeWidth = Math.max(1, Math.round(mostWidthPx));
  const resizeHeight = Math.max(1, Math.round((whole.height * resizeWidth) / whole.width));
  const small = await createImageBitmap(whole, { resizeWidth, resizeHeight, resizeQuality: 'high' });
  whole.close();
  return small;
}

/** How wide a drawing is on paper, in pixels: enough for 300 dots an inch. */
const ON_PAPER_PX = 540;

/** A stored picture on white as a small JPEG; null when it is missing. */
export async function smallJpeg(picture: Digest): Promise<Uint8Array | null> {
  const bitmap = await smallPicture(picture, ON_PAPER_PX);
  if (!bitmap) return null;
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('There is no memory to print drawings.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.88 })).arrayBuffer());
}
