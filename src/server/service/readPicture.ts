import sharp from 'sharp';
import { readPngSize } from '@/core/format/png/header';
import { done, type Outcome, refused } from '@/core/outcome';
import { canonicalisePixels, digestOfPixels } from '@/core/raster/digest';
import type { Size } from '@/core/sheet/document';
import { sizeText } from '@/core/sheet/size';
import type { StoredPicture } from '@/server/store/pictures';

/** Decodes a PNG of the given size and works out the digest of its pixels; refuses anything else with a sentence. */
export async function readPicture(png: Uint8Array, size: Size): Promise<Outcome<StoredPicture>> {
  const said = readPngSize(png);
  if (!said.ok) return said;
  if (said.value.width !== size.width || said.value.height !== size.height) {
    return refused(`The picture is ${sizeText(said.value)}; drawings of this project are ${sizeText(size)}.`);
  }
  try {
    const rgba = await sharp(png, { failOn: 'error' }).ensureAlpha().raw({ depth: 'uchar' }).toBuffer();
    canonicalisePixels(rgba);
    return done({ digest: await digestOfPixels(size.width, size.height, rgba), size, png });
  } catch (error) {
    return refused(
      `The picture can't be read: it is broken after its header (${error instanceof Error ? error.message.split('\n')[0] : 'unknown'}).`,
    );
  }
}
