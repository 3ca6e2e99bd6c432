import type { Digest } from '@/core/document/model';
import { linesOf } from '@/core/raster/outline';

/*
 * Pictures as they are shown somewhere: smaller than they are, perhaps all in one colour, or only their lines. Making a large picture
 * small, and finding its lines, takes tens of milliseconds, for which the page's own thread has no time.
 */

/** A picture so many px wide, at most its own width; all in one colour when there is a tint, and then perhaps only its lines. */
export type Look = { readonly digest: Digest; readonly widthPx: number; readonly tint?: string; readonly linesOnly?: boolean };

/** A whole picture in one look. */
export async function lookOf(whole: ImageBitmap, { widthPx, tint, linesOnly = false }: Look): Promise<ImageBitmap> {
  const width = Math.min(widthPx, whole.width);
  const height = Math.max(1, Math.round((whole.height * width) / whole.width));
  const small = await createImageBitmap(whole, { resizeWidth: width, resizeHeight: height, resizeQuality: 'medium' });
  return tint ? tinted(small, tint, linesOnly) : small;
}

/** The picture's shape, or only its lines, in one colour; takes the bitmap over. */
async function tinted(bitmap: ImageBitmap, tint: string, linesOnly: boolean): Promise<ImageBitmap> {
  const { width, height } = bitmap;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: linesOnly });
  if (!context) return bitmap;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  if (linesOnly) {
    const lines = linesOf({ width, height }, context.getImageData(0, 0, width, height).data, tint);
    return createImageBitmap(new ImageData(lines as Uint8ClampedArray<ArrayBuffer>, width, height));
  }
  context.globalCompositeOperation = 'source-in';
  context.fillStyle = tint;
  context.fillRect(0, 0, width, height);
  return canvas.transferToImageBitmap();
}
