import type { Pixels } from '@/core/format/pixels';

/** A picture of a file, decoded; `png` is the file itself when it is a PNG that holds just this. */
export type Page = Pixels & { readonly name: string; readonly delayMilliseconds: number | null; readonly png: Uint8Array | null };

/** What a file holds. */
export type DecodedFile = { readonly kind: string; readonly isLayered: boolean; readonly pages: readonly Page[] };

/** Most pictures one file may hold. */
export const MOST_PAGES = 2000;

/** Most pixels all pictures of one file may have together: as many as a thousand pictures of 1280 × 720. */
export const MOST_FILE_PIXELS = 1000 * 1280 * 720;
