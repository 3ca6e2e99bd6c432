import sharp from 'sharp';
import { checkSize } from '@/core/document/size';
import { blockGrid, blocksOfOpaque } from '@/core/outside/blocks';
import type { OutsideFrame } from '@/core/outside/countOutside';

/** What the image library reads by itself; others are read by ourselves. */
const KINDS = new Set(['png', 'jpeg', 'webp', 'tiff']);

/**
 * A single picture brought down to blocks by the image library, which is quicker than to have all its pixels; null for what it doesn't
 * read, or where it holds several. Pictures are told to be the same to the last bit by the digest of their files.
 */
export async function shrunkPicture(bytes: Uint8Array, digest: string): Promise<OutsideFrame | null> {
  try {
    const image = sharp(bytes, { failOn: 'error', limitInputPixels: false });
    const { format, width, height, pages = 1, orientation = 1 } = await image.metadata();
    if (!KINDS.has(format ?? '') || pages > 1 || orientation > 1 || !checkSize(width, height).ok) return null;
    const { columns, rows } = blockGrid(width + (width % 2), height + (height % 2));
    const { data } = await image
      .toColourspace('srgb')
      .flatten({ background: '#ffffff' })
      .resize(columns, rows, { fit: 'fill', kernel: 'linear', fastShrinkOnLoad: false })
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    const channels = data.byteLength / (columns * rows);
    if (channels !== 3) return null;
    return { kind: 'seen', blocks: blocksOfOpaque(columns, rows, data, channels), fingerprint: digest, size: { width, height } };
  } catch {
    // What it gives up on is read in the other way, which says why it can't be.
    return null;
  }
}
