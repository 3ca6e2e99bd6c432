import type { Rate } from '@/core/time/rate';

/*
 * A timeline as editors pass it to each other: tracks of clips and gaps one after another, each so many of the timeline's frames
 * long, and each clip naming what it shows and from which frame on. What is written of it and read into it is a format's.
 */

/** What a clip is made of: numbered pictures, or one file; null where that isn't said. */
export type EditorialMedia =
  | { readonly kind: 'file'; readonly fileName: string }
  | {
      readonly kind: 'sequence';
      readonly folder: string;
      readonly prefix: string;
      readonly suffix: string;
      readonly firstNumber: number;
      readonly digits: number;
    };

/** `sourceFrame` is the first frame shown of the source (from 0), `sourceFrames` how many it has, null where that isn't said. `remark` is what its receiver should know of it. */
export type EditorialClip = {
  readonly kind: 'clip';
  readonly name: string;
  readonly sourceFrame: number;
  readonly frames: number;
  readonly sourceFrames: number | null;
  readonly media: EditorialMedia | null;
  readonly remark: string | null;
};
export type EditorialGap = { readonly kind: 'gap'; readonly frames: number };

export type EditorialTrack = {
  readonly kind: 'picture' | 'sound';
  readonly name: string;
  readonly items: readonly (EditorialClip | EditorialGap)[];
};

/** `startFrame` is the frame that the timecode of its first frame names: 0, or an hour. */
export type EditorialTimeline = {
  readonly title: string;
  readonly rate: Rate;
  readonly startFrame: number;
  readonly tracks: readonly EditorialTrack[];
};

/** A clip with the frame of its track it starts on, from 0. */
export type PlacedClip = EditorialClip & { readonly startFrame: number };

/** The clips of a track where they lie. */
export function placedClips({ items }: EditorialTrack): readonly PlacedClip[] {
  let startFrame = 0;
  return items.flatMap((item) => {
    const placed = item.kind === 'clip' ? [{ ...item, startFrame }] : [];
    startFrame += item.frames;
    return placed;
  });
}

/** How many frames a track is long. */
export const framesOfTrack = ({ items }: EditorialTrack): number => items.reduce((sum, { frames }) => sum + frames, 0);

/** Clips and the gaps between them, from clips where they lie, in order of their starts; none may overlap. */
export function inTrack(clips: readonly PlacedClip[], frames: number | null = null): EditorialTrack['items'] {
  const items: (EditorialClip | EditorialGap)[] = [];
  let end = 0;
  for (const { startFrame, ...clip } of clips) {
    if (startFrame > end) items.push({ kind: 'gap', frames: startFrame - end });
    items.push(clip);
    end = startFrame + clip.frames;
  }
  if (frames !== null && frames > end) items.push({ kind: 'gap', frames: frames - end });
  return items;
}
