import { type Clip, microsecondsOfFrame } from '@/core/document/clip';
import type { PictureName } from '@/core/render/stacks';

/*
 * A frame of a clip is a picture like any other to whoever lays it, and is never stored: its name says which original to open
 * and for which moment to ask a decoder. Two frames have two names, and one frame has one.
 */

/** A frame of a clip: the digest of its original's bytes, its number (from 0), and a moment at which the file shows it. */
export type ClipPicture = { readonly original: string; readonly frame: number; readonly atMicroseconds: number };

const FORM = /^clip:([0-9a-f]{64}):(\d+):(-?\d+)$/;

/** The name of a frame (from 0) of a clip. */
export const clipPictureName = (clip: Clip, frame: number): PictureName =>
  `clip:${clip.original}:${frame}:${microsecondsOfFrame(clip, frame)}`;

export const isClipPicture = (name: PictureName): boolean => name.startsWith('clip:');

/** The frame a name names; null when it names a drawing's picture. */
export function readClipPicture(name: PictureName): ClipPicture | null {
  const [, original, frame, atMicroseconds] = FORM.exec(name) ?? [];
  return original === undefined ? null : { original, frame: Number(frame), atMicroseconds: Number(atMicroseconds) };
}
