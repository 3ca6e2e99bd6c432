import type { Size } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';

/** Longest side a picture may have, in pixels (inclusive). */
export const LONGEST_SIDE_PX = 16_384;

/** Most pixels a picture may have (inclusive): 8192 × 8192, four times the pixels of 8K. */
export const MOST_PICTURE_PIXELS = 8192 * 8192;

/** Largest picture file that is taken in, in bytes (inclusive): 64 MiB. */
export const LARGEST_PICTURE_BYTES = 64 * 1024 * 1024;

/** The size itself when pictures can have it, else why not. */
export function checkSize(width: number, height: number): Outcome<Size> {
  for (const [side, value] of [
    ['width', width],
    ['height', height],
  ] as const) {
    if (!Number.isInteger(value) || value < 1 || value > LONGEST_SIDE_PX) {
      return refused(`A picture ${side} of ${value} px is not possible: it must be a whole number from 1 to 16,384.`);
    }
  }
  if (width * height > MOST_PICTURE_PIXELS)
    return refused(`A picture of ${width} × ${height} px has more than 67 million pixels, which is more than can be worked with.`);
  return done({ width, height });
}

/** Whether films with 4:2:0 sampling, which most are, can hold this size: both sides even. */
export const isEvenSize = (size: Size): boolean => size.width % 2 === 0 && size.height % 2 === 0;

/** A size as written: `1280 × 720`. */
export const sizeText = (size: Size): string => `${size.width} × ${size.height}`;

export const sameSize = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height;

/** Bytes a picture of this size takes while it is worked with: four for each pixel. */
export const pictureBytes = (size: Size): number => size.width * size.height * 4;

/** Room for pictures that are held ready for playing, in bytes: 384 MiB, so that it fits any machine. */
export const READY_PICTURES_BYTES = 384 * 1024 * 1024;

/** No less than this is given to them, however long the film: more than a second on twos at 1280 × 720, and four times that where it is shown at half. */
const LEAST_READY_BYTES = 64 * 1024 * 1024;

/*
 * The document itself takes memory, on the page and again in each worker that holds it: up to 330 MiB for a film of 60,000
 * drawings (measured, with what the browser has not collected yet), which is 5.6 KiB for each. What a long film takes there is taken from what is held ready.
 */
const DOCUMENT_BYTES_A_DRAWING = 5.6 * 1024;

/** Room for pictures that are held ready for playing a film of so many drawings, in bytes. */
export const readyPicturesBytes = (drawings: number): number =>
  Math.max(LEAST_READY_BYTES, READY_PICTURES_BYTES - Math.round(drawings * DOCUMENT_BYTES_A_DRAWING));

/** The same on a reel with clips, whose decoders take memory besides: for what has no frames of clips in it. */
export const READY_BESIDE_CLIPS_BYTES = 96 * 1024 * 1024;

/** And for frames of clips: every frame is a picture of its own, seldom wanted again. */
export const READY_CLIP_FRAMES_BYTES = 32 * 1024 * 1024;
