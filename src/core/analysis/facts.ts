import type { Flashes } from '@/core/analysis/flashRule';
import type { PictureMeasure } from '@/core/analysis/measure';
import type { Nearness } from '@/core/analysis/nearness';
import type { Digest } from '@/core/document/model';

/** Why a picture can't be looked at: it is not in the store, or what is there is no picture. */
export type PictureTrouble = 'missing' | 'broken';

/** What looking at the pictures themselves has told so far; it grows while they are measured. */
export type PictureFacts = {
  readonly measures: ReadonlyMap<Digest, PictureMeasure>;
  readonly troubles: ReadonlyMap<Digest, PictureTrouble>;
  /** Pairs of pictures of one level that are near each other, under `nearKey`. */
  readonly near: ReadonlyMap<string, Nearness>;
  /** The worst second of the film of each kind of flash. */
  readonly flashes: readonly Flashes[];
};

/** What listening to recordings has told so far, by the digest of their files: how long they are, or why they could not be read. */
export type SoundFacts = ReadonlyMap<string, PictureTrouble | { readonly samples: number; readonly sampleRate: number }>;

/** Whether the originals of clips are in the store, by the digest of their files, as far as it was asked. */
export type ClipFacts = ReadonlyMap<string, 'there' | 'missing'>;

/** Nothing looked at yet. */
export const NO_FACTS: PictureFacts = { measures: new Map(), troubles: new Map(), near: new Map(), flashes: [] };

/** The key of a pair of pictures, whichever comes first. */
export const nearKey = (a: Digest, b: Digest): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
