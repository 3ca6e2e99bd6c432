import { decode } from 'fast-png';
import type { Size } from '@/core/document/model';
import { canonicalisePixels } from '@/core/raster/canonical';
import { canvasOf } from '@/workers/output/pictures/canvasPng';
import { straightPixels } from '@/workers/output/pictures/straightPng';
import { decodeStored, type StoredPng } from '@/workers/render/storedPng';

/*
 * A stored picture that is all of what leaves needs no canvas, where its colours would be multiplied by their transparency and
 * divided again: that takes as long as packing them, and changes about half of those that are partly there a little. It leaves
 * with the very colours it was brought in with.
 */

/** The pixels of a stored picture as they leave: RGBA, canonical, straight; with its file where each is what that holds. */
export type StoredPixels = { readonly rgba: Uint8Array; readonly stored: Uint8Array | null };

/** The pixels of a PNG by a script, RGBA; null where it has not four samples of 8 bits, or another size. */
function byScript(png: Uint8Array, size: Size): Uint8Array | null {
  const { width, height, channels, depth, data } = decode(png);
  if (channels !== 4 || depth !== 8 || width !== size.width || height !== size.height) return null;
  return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
}

/** What comes off a canvas of a size that a picture was drawn on at its corner. */
async function offCanvas(png: StoredPng, size: Size): Promise<Uint8Array> {
  const context = canvasOf(size);
  const bitmap = await decodeStored(png);
  context.clearRect(0, 0, size.width, size.height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return new Uint8Array(context.getImageData(0, 0, size.width, size.height).data.buffer);
}

/**
 * The pixels of a stored picture alone, without a background, at the corner of a size, in `room` where they fit it. What says other
 * colours than plain ones is left to the browser, as on the screen. Rejects where it can't be decoded.
 */
export async function storedPixels(png: StoredPng, size: Size, room?: Uint8Array): Promise<StoredPixels> {
  const stored = new Uint8Array(await png.file.arrayBuffer());
  const own = png.isPlain ? ((await straightPixels(stored, size, room)) ?? byScript(stored, size)) : null;
  const rgba = own ?? (await offCanvas(png, size));
  const wasCanonical = canonicalisePixels(rgba);
  return { rgba, stored: own !== null && wasCanonical ? stored : null };
}
