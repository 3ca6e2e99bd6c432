import sharp from 'sharp';
import type { Size } from '@/core/document/model';
import { checkSize, sameSize, sizeText } from '@/core/document/size';
import { changesColours } from '@/core/format/png/chunks';
import { readPngSize } from '@/core/format/png/header';
import { done, type Outcome, refused } from '@/core/outcome';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestInTurns, inSlices, inTurn, type Queue } from '@/server/service/bringIn/inTurns';
import type { StoredPicture } from '@/server/store/pictures';

/** Pictures up to this size are decoded several at once. */
const MOST_SMALL_PIXELS = 4_000_000;

/** Decodes a PNG of one of the given sizes, or of any when null, and works out the digest of its pixels; refuses anything else with a sentence. What is drawn waits for nothing that is brought in. */
export async function readPicture(
  png: Uint8Array,
  sizes: readonly [Size, ...Size[]] | null,
  queue: Queue = 'drawn',
): Promise<Outcome<StoredPicture>> {
  const said = readPngSize(png);
  if (!said.ok) return said;
  const { value: size } = said;
  const possible = checkSize(size.width, size.height);
  if (!possible.ok) return possible;
  if (sizes && !sizes.some((wanted) => sameSize(wanted, size))) {
    return refused(`The picture is ${sizeText(size)}; drawings of this project are ${sizeText(sizes[0])}.`);
  }
  try {
    // Large ones come one after another, so that their memory doesn't add up.
    return await inTurn(queue === 'packed' && size.width * size.height > MOST_SMALL_PIXELS ? 'brought' : queue, async () => {
      const rgba = await sharp(png, { failOn: 'error' }).ensureAlpha().raw({ depth: 'uchar' }).toBuffer();
      await inSlices(rgba, canonicalisePixels);
      const digest = await digestInTurns(size, rgba);
      // What is stored must hold the pixels of the digest for everybody who reads it.
      const plain = changesColours(png)
        ? await sharp(rgba, { raw: { ...size, channels: 4 } })
            .png({ compressionLevel: 3 })
            .toBuffer()
        : png;
      return done({ digest, size, png: plain });
    });
  } catch (error) {
    return refused(
      `The picture can't be read: it is broken after its header (${error instanceof Error ? error.message.split('\n')[0] : 'unknown'}).`,
    );
  }
}
