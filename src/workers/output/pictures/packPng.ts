import { encode } from 'fast-png';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/**
 * A rendered picture as a PNG file. On paper a canvas packs exactly; where there is transparency it would not be exact,
 * since a canvas is premultiplied, so straight pixels are packed.
 */
export async function packPng(picture: RenderedPicture): Promise<Uint8Array> {
  if (picture.ground === 'paper') return new Uint8Array(await (await picture.canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  const { width, height } = picture.canvas;
  return encode({ width, height, data: picture.straightPixels(), channels: 4, depth: 8 }, { zlib: { level: 3 } });
}
