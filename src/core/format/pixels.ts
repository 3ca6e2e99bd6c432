import type { Size } from '@/core/document/model';

/** A decoded picture: RGBA, straight alpha, 8 bits a channel, row by row from the top. */
export type Pixels = { readonly size: Size; readonly rgba: Uint8ClampedArray };
