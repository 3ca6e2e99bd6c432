import type { FileTimes } from '@/core/count/fileTimes';
import type { Size } from '@/core/document/model';

/*
 * What comes out of a file that is opened again. Whoever reads it is told where it lies and nothing else: neither what was
 * asked for nor what was written. Frames come in the order a player shows them, pictures in the order of their numbers.
 */

/**
 * A picture as it was decoded: `exact` by a fingerprint of its pixels, where the format keeps every one of them, or `near`
 * by its signature (`@/core/raster/signature`), where coding changes them a little. One that is kept may have a
 * signature, too, where others beside it are not.
 */
export type ReadPicture =
  | { readonly kind: 'exact'; readonly fingerprint: string; readonly size: Size; readonly signature?: Uint8Array }
  | { readonly kind: 'near'; readonly signature: Uint8Array; readonly size?: Size };

/** One frame: the name of its file (null in a file of all frames) and its picture. `digest` is that of the picture file's bytes, null in films. */
export type ReadFrame = { readonly name: string | null; readonly picture: ReadPicture; readonly digest: string | null };

/**
 * The sound of a file that was opened: `startSample` is where its first heard sample stands, `samples` how many are heard by the
 * file's own times, null where it doesn't say how long its last part lasts. Walking `parts` gives what is decoded, each part with the place of its first sample; it throws `Undecodable`
 * where that can't be done on this machine.
 */
export type ReadSound = {
  readonly codec: string;
  readonly sampleRate: number;
  readonly channels: number;
  readonly startSample: number;
  readonly samples: number | null;
  readonly parts: AsyncIterable<{ readonly startSample: number; readonly channels: readonly Float32Array[] }>;
};

/** What a loop says of its pictures: how long each is held, and how often all are played, 0 for ever. `colours` is how many its palettes hold at most, null where pixels have any. */
export type ReadLoop = { readonly microseconds: readonly number[]; readonly plays: number; readonly colours: number | null };

/**
 * A file that was opened. `size` is what it says of its pictures' size, null where each says its own; `times` those of its
 * frames, null for pictures, which have none; `packetDigests` the SHA-256 of what it holds for each frame, in films.
 * Walking `frames` throws `Undecodable` where its pictures can't be decoded on this machine.
 */
export type ReadBack = {
  readonly size: Size | null;
  readonly times: FileTimes | null;
  readonly packetDigests: readonly string[] | null;
  /** The SHA-256 of how its decoder is set up; null where that isn't known, and for pictures. */
  readonly decoderDigest: string | null;
  /** What it says of its colours, in words, once its frames were walked; null where it says nothing, or pictures say different things. */
  readonly colours: () => string | null;
  /** Null for a file without sound, as pictures are. */
  readonly sound: ReadSound | null;
  /** Null for a file that is no loop. */
  readonly loop: ReadLoop | null;
  /** Frames (from 0) that are key frames, in films. */
  readonly keyFrames: readonly number[] | null;
  readonly frames: AsyncIterable<ReadFrame>;
};

/** The pictures of a file can't be decoded on this machine; the message is the decoder's reason. */
export class Undecodable extends Error {
  override readonly name = 'Undecodable';
}
