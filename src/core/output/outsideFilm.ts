import type { Depth, OutsideCodec, Quality } from '@/core/output/film';
import type { Rate } from '@/core/time/rate';

/*
 * A film that browsers can't write is encoded by a program on the server. It is handed each distinct picture once, as a PNG,
 * the sound as samples, and then the runs that say how long each picture is held.
 */

/** An outside encoder that was found, by what it says of itself; or why there is none. */
export type OutsideEncoder =
  | { readonly found: true; readonly version: string; readonly codecs: readonly OutsideCodec[] }
  | { readonly found: false; readonly reason: string };

/** Whoever needs the encoder and finds none is told this. */
export const NO_ENCODER =
  'FFV1, PNG and ProRes films are written by ffmpeg and ffprobe, which are not on the path of the computer Lime Tick runs on. Install ffmpeg there (on Debian and Ubuntu: apt install ffmpeg) and open this stage again.';

/** What is asked of the encoder. `channels` of sound come as 32-bit floats, one after another in each sample; none where `sound` is null. */
export type OutsideOrder = {
  readonly container: 'mov' | 'mkv';
  readonly codec: OutsideCodec;
  readonly depth: Depth;
  readonly quality: Quality;
  readonly transparency: boolean;
  readonly width: number;
  readonly height: number;
  readonly rate: Rate;
  readonly frames: number;
  readonly sound: {
    readonly codec: 'pcm' | 'flac';
    readonly sampleRate: number;
    readonly channels: number;
    readonly samples: number;
  } | null;
  readonly title: string;
  readonly language: string;
  readonly timecode: string;
};

/** A picture, by the number it was sent under, and how many frames it is held. */
export type OutsideRun = { readonly picture: number; readonly frames: number };

/** What the encoder tells while it works, one a line. */
export type EncodingLine =
  | { readonly kind: 'encoded'; readonly frames: number }
  | { readonly kind: 'done'; readonly sizeBytes: number }
  | { readonly kind: 'failed'; readonly reason: string };

/**
 * What reading a film on the server tells, one a line: first which file it is, by its SHA-256, then each frame as it was decoded:
 * the fingerprint of its pixels where the file keeps them, its signature (base64) where it doesn't or may not.
 */
export type ReadingLine =
  | { readonly kind: 'file'; readonly digest: string }
  | { readonly kind: 'frame'; readonly fingerprint: string | null; readonly signature: string | null }
  | { readonly kind: 'end'; readonly frames: number }
  | { readonly kind: 'failed'; readonly reason: string };
