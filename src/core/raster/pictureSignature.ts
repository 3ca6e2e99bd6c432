import { i420aPlanes, i420Planes, signatureOfPlanes } from '@/core/raster/signature';
import { i420Bytes, pixelsToI420 } from '@/core/raster/yuv';
import { i420aBytes, pixelsToI420A } from '@/core/raster/yuva';

/** Pixels whose sides are made even by showing the last column and row twice: colour is kept for blocks of 2 × 2. */
function evenSided(width: number, height: number, rgba: Uint8Array): { width: number; height: number; rgba: Uint8Array } {
  if (width % 2 === 0 && height % 2 === 0) return { width, height, rgba };
  const [wider, higher] = [width + (width % 2), height + (height % 2)];
  const out = new Uint8Array(wider * higher * 4);
  for (let y = 0; y < higher; y++) {
    const row = Math.min(y, height - 1) * width * 4;
    out.set(rgba.subarray(row, row + width * 4), y * wider * 4);
    if (wider > width) out.set(rgba.subarray(row + (width - 1) * 4, row + width * 4), (y * wider + width) * 4);
  }
  return { width: wider, height: higher, rgba: out };
}

/** The signature of a picture of any size given as straight RGBA pixels; with `hasAlpha` its transparency counts, too. */
export function signatureOfPixels(width: number, height: number, rgba: Uint8Array, hasAlpha: boolean): Uint8Array {
  const even = evenSided(width, height, rgba);
  if (hasAlpha) {
    const planes = new Uint8Array(i420aBytes(even.width, even.height));
    pixelsToI420A(even.width, even.height, even.rgba, planes);
    return signatureOfPlanes(planes, i420aPlanes(even.width, even.height));
  }
  const planes = new Uint8Array(i420Bytes(even.width, even.height));
  pixelsToI420(even.width, even.height, even.rgba, 'RGBA', planes);
  return signatureOfPlanes(planes, i420Planes(even.width, even.height));
}

/** Straight pixels with their colours multiplied by how much of them is seen, rounded, as TIFF and TGA hold them. */
export function premultiplied(rgba: Uint8Array): Uint8Array {
  const out = rgba.slice();
  for (let at = 0; at < out.length; at += 4) {
    const alpha = out[at + 3] as number;
    if (alpha === 255) continue;
    for (let channel = at; channel < at + 3; channel++) out[channel] = Math.round(((out[channel] as number) * alpha) / 255);
  }
  return out;
}
