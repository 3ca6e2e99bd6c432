import { checkSize } from '@/core/document/size';
import type { Pixels } from '@/core/format/pixels';
import { done, type Outcome, refused } from '@/core/outcome';

/** A picture of a file, decoded; `png` is the file itself when it is a PNG that holds just this. */
export type Page = Pixels & { readonly name: string; readonly delayMilliseconds: number | null; readonly png: Uint8Array | null };

/**
 * What a file holds. Its pictures are decoded one after another as they are asked for, and none is kept here:
 * a small file may hold gigabytes of them. Asking may throw: a file may be broken further on.
 */
export type DecodedFile = {
  readonly kind: string;
  readonly isLayered: boolean;
  readonly count: number;
  readonly pages: AsyncIterable<Page>;
};

/** Most pictures one file may hold. */
export const MOST_PAGES = 2000;

/** Most pixels all pictures of one file may have together: as many as 325 pictures of 1280 × 720. */
export const MOST_FILE_PIXELS = 300_000_000;

/** Refuses pictures that are too many, too large, or too much together, before any of them is decoded. */
export function checkPages(sizes: readonly { readonly width: number; readonly height: number }[]): Outcome<null> {
  if (sizes.length === 0) return refused('The file holds no picture.');
  if (sizes.length > MOST_PAGES)
    return refused(`The file holds ${sizes.length} pictures; ${MOST_PAGES} is the most that is brought in from one.`);
  let pixels = 0;
  for (const { width, height } of sizes) {
    const size = checkSize(width, height);
    if (!size.ok) return size;
    pixels += width * height;
  }
  if (pixels > MOST_FILE_PIXELS)
    return refused(
      `The file holds ${sizes.length} pictures with ${Math.round(pixels / 1_000_000)} million pixels together; ${MOST_FILE_PIXELS / 1_000_000} million are the most that is brought in at once. Save it in parts.`,
    );
  return done(null);
}

/** One picture. */
export async function* onePage(page: Page): AsyncGenerator<Page> {
  yield page;
}
