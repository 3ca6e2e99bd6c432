import type { Size } from '@/core/document/model';
import type { Comparing } from '@/core/output/format';
import type { Dither } from '@/core/raster/dither';
import type { Colour } from '@/core/raster/palette';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import type { Delay } from '@/core/time/heldTimes';
import type { MeantNote } from '@/workers/output/pictures/keptPictures';
import type { Ground } from '@/workers/render/compositor';

/** What holds for all pictures of a loop: `delays` and `centiseconds` are of each picture, by its place. */
type ForAll = { readonly size: Size; readonly ground: Ground; readonly comparing: Exclude<Comparing, 'film'> };

export type ApngWork = ForAll & { readonly kind: 'apng'; readonly channels: 3 | 4; readonly delays: readonly Delay[] };

export type GifWork = ForAll & {
  readonly kind: 'gif';
  /** The palette for all pictures; null where each has its own. */
  readonly palette: readonly Colour[] | null;
  /** Of a palette of its own. */
  readonly mostColours: number;
  readonly dither: Dither;
  readonly centiseconds: readonly number[];
};

export type LoopWork = ApngWork | GifWork;

/**
 * A picture of a loop, by its place from 0, with the one before it: nothing before the first; `last`, where that is the one this maker
 * made last; else its pixels. Pixels are given away: they are written over.
 */
export type LoopPicture = OrderedPixels & { readonly place: number; readonly before: 'nothing' | 'last' | OrderedPixels };

/** What a loop stores of a picture, what the picture is noted as, and room for the pixels of another where some has become free. */
export type LoopPart = { readonly bytes: Uint8Array; readonly note: MeantNote; readonly room: Uint8Array | null };

/** Makes what a loop stores of its pictures, one after another, in whatever order they are given. */
export type LoopMaker = { readonly make: (picture: LoopPicture) => Promise<LoopPart> };

/**
 * A loop that was made before it is handed over, so that its size was known: what it was made of, the very file, what each stack
 * of its plan was noted as, and how many pictures were rendered for it.
 */
export type TriedLoop = {
  readonly madeOf: string;
  readonly file: Blob;
  readonly notes: readonly MeantNote[];
  readonly composited: number;
};
