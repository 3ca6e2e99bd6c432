import { type Clip, microsecondsOfFrame } from '@/core/document/clip';
import type { PictureName, PictureStack, StackLayer } from '@/core/render/stacks';

/*
 * A frame of a clip is a picture like any other to whoever lays it, and is never stored: its name says which original to open
 * and for which moment to ask a decoder. Two frames have two names, and one frame has one.
 */

/** A frame of a clip: the digest of its original's bytes, its number (from 0), and a moment at which the file shows it. */
export type ClipPicture = { readonly original: string; readonly frame: number; readonly atMicroseconds: number };

const FORM = /^clip:([0-9a-f]{64}):(\d+):(-?\d+)$/;

/** Whether two stacks are alike but for which frames of a clip they show. */
export function differInClipFramesAlone(a: PictureStack, b: PictureStack): boolean {
  const original = ({ picture }: StackLayer) => readClipPicture(picture)?.original ?? null;
  return (
    a.layers.length === b.layers.length &&
    a.layers.some(({ picture }, at) => picture !== b.layers[at]?.picture) &&
    a.layers.every((layer, at) => {
      const other = b.layers[at] as StackLayer;
      if (layer.opacityPercent !== other.opacityPercent || layer.blend !== other.blend) return false;
      return layer.picture === other.picture || (original(layer) !== null && original(layer) === original(other));
    })
  );
}

/** The name of a frame (from 0) of a clip. */
export const clipPictureName = (clip: Clip, frame: number): PictureName =>
  `clip:${clip.original}:${frame}:${microsecondsOfFrame(clip, frame)}`;

export const isClipPicture = (name: PictureName): boolean => name.startsWith('clip:');

/** Whether a stack shows a frame of a clip. */
export const showsClip = ({ layers }: PictureStack): boolean => layers.some(({ picture }) => isClipPicture(picture));

/** The frame a name names; null when it names a drawing's picture. */
export function readClipPicture(name: PictureName): ClipPicture | null {
  const [, original, frame, atMicroseconds] = FORM.exec(name) ?? [];
  return original === undefined ? null : { original, frame: Number(frame), atMicroseconds: Number(atMicroseconds) };
}
