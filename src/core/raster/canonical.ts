import { clearHidden } from '@/core/raster/compiledPixels';

/** Brings pixels (RGBA, straight alpha, row by row) to canonical form in place: no colour where alpha is 0. Tells whether they were in it. */
export const canonicalisePixels = (rgba: Uint8Array | Uint8ClampedArray): boolean => clearHidden(rgba);
