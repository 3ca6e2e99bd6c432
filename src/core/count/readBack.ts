import type { FileTimes } from '@/core/count/fileTimes';
import type { Size } from '@/core/document/model';

/*
 * What comes out of a file that is opened again. Whoever reads it is told where it lies and nothing else: neither what was
 * asked for nor what was written. Frames come in the order a player shows them, pictures in the order of their numbers.
 */

/**
 * A picture as it was decoded: `exact` by a fingerprint of its pixels, where the format keeps every one of them, or `near`
 * by its signature (`@/core/raster/signature`), where coding changes them a little.
 */
export type ReadPicture =
  | { readonly kind: 'exact'; readonly fingerprint: string; readonly size: Size }
  | { readonly kind: 'near'; readonly signature: Uint8Array };

/** One frame: the number its file bears (null in a file of all frames) and its picture. `digest` is that of the picture file's bytes, null in films. */
export type ReadFrame = { readonly number: number | null; readonly picture: ReadPicture; readonly digest: string | null };

/**
 * A file that was opened. `size` is what it says of its pictures' size, null where each says its own; `times` those of its
 * frames, null for pictures, which have none; `packetDigests` the SHA-256 of what it holds for each frame, in films.
 * Walking `frames` throws `Undecodable` where its pictures can't be decoded on this machine.
 */
export type ReadBack = {
  readonly size: Size | null;
  readonly times: FileTimes | null;
  readonly packetDigests: readonly string[] | null;
  readonly frames: AsyncIterable<ReadFrame>;
};

/** The pictures of a file can't be decoded on this machine; the message is the decoder's reason. */
export class Undecodable extends Error {
  override readonly name = 'Undecodable';
}
