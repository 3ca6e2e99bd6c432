import sharp from 'sharp';
import { checkSize } from '@/core/document/size';
import { blockGrid } from '@/core/outside/blocks';
import type { OutsideFrame } from '@/core/outside/countOutside';
import { blocksOnPaper } from '@/core/raster/compiledPlanes';
import { blockSide } from '@/core/raster/signature';

/** What the image library reads by itself; others are read by ourselves. */
const KINDS = new Set(['png', 'jpeg', 'webp', 'tiff']);

/** Pictures of more pixels are made smaller by the image library, which never has all of them at once. */
const MOST_PIXELS_AT_ONCE = 10_000_000;

/**
 * A single picture brought down to blocks; null for what the image library doesn't read, or where it holds several. Pictures are told to
 * be the same to the last bit by the digest of their files.
 */
export async function shrunkPicture(bytes: Uint8Array, digest: string): Promise<OutsideFrame | null> {
  try {
    const image = sharp(bytes, { failOn: 'error', limitInputPixels: false });
    const { format, width, height, pages = 1, orientation = 1 } = await image.metadata();
    if (!KINDS.has(format ?? '') || pages > 1 || orientation > 1 || !checkSize(width, height).ok) return null;
    const even = [width + (width % 2), height + (height % 2)] as const;
    const { columns, rows } = blockGrid(...even);
    const isLarge = width * height > MOST_PIXELS_AT_ONCE;
    const coloured = image.toColourspace('srgb');
    const sized = isLarge
      ? coloured.flatten({ background: '#ffffff' }).resize(columns, rows, { fit: 'fill', kernel: 'linear', fastShrinkOnLoad: false })
      : coloured;
    const { data, info } = await sized.raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
    if (info.channels !== 3 && info.channels !== 4) return null;
    const planes = blocksOnPaper(data, info.width, info.height, info.channels, isLarge ? 1 : blockSide(...even));
    return { kind: 'seen', blocks: { columns, rows, planes }, fingerprint: digest, size: { width, height } };
  } catch {
    // What it gives up on is read in the other way, which says why it can't be.
    return null;
  }
}
