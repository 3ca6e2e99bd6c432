import { type GifPicture, gifPicture } from '@/core/format/gif/writeGif';
import { packRows, type RowPacking } from '@/workers/output/pictures/packRows';

/** Who packs what a loop holds, several pictures at once where others help. */
export type LoopPacking = RowPacking & {
  /** Of several ways to say a picture of a GIF, which are given away, the one of the fewest bytes; the first of those. */
  readonly packGif: (ways: readonly GifPicture[]) => Promise<Uint8Array>;
};

/** The shortest of several ways to say a picture of a GIF; the first of those. */
export function shortestGif(ways: readonly GifPicture[]): Uint8Array {
  const [first, ...others] = ways.map(gifPicture);
  if (!first) throw new Error('A picture has to be said in some way.');
  return others.reduce((shortest, other) => (other.byteLength < shortest.byteLength ? other : shortest), first);
}

/** Packs where it is asked for. */
export const PACKED_HERE: LoopPacking = { packRows, packGif: async (ways) => shortestGif(ways), atOnce: 1 };
