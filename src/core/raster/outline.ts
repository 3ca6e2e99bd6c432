import type { Size } from '@/core/document/model';

/*
 * The lines of a drawing are where it changes: for each pixel the largest step to the pixels right of and
 * below it, in alpha and in lightness on white. Both pixels of a step take it, so that a line one pixel wide
 * stays whole. Lightness is Rec. 709 luma of the straight channels (ITU-R BT.709-6, item 3.2).
 */

/** A step this large (of 255) is a full line; smaller ones are fainter. */
const FULL_STEP = 96;
const FAINTEST_STEP = 12;

/** Only the lines of a picture (RGBA, straight alpha), all in one colour `#rrggbb`. */
export function linesOf({ width, height }: Size, rgba: Uint8ClampedArray | Uint8Array, colour: string): Uint8ClampedArray {
  const channels = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16)) as [number, number, number];
  const pixels = width * height;
  const onWhite = new Float32Array(pixels);
  const alphas = new Uint8Array(pixels);
  for (let index = 0, at = 0; index < pixels; index++, at += 4) {
    const alpha = rgba[at + 3] as number;
    const luma = 0.2126 * (rgba[at] as number) + 0.7152 * (rgba[at + 1] as number) + 0.0722 * (rgba[at + 2] as number);
    alphas[index] = alpha;
    onWhite[index] = 255 + ((luma - 255) * alpha) / 255;
  }
  const steps = new Uint8Array(pixels);
  const compare = (index: number, other: number) => {
    const step = Math.max(
      Math.abs((alphas[index] as number) - (alphas[other] as number)),
      Math.abs((onWhite[index] as number) - (onWhite[other] as number)),
    );
    if (step < FAINTEST_STEP) return;
    const strength = Math.min(255, (step * 255) / FULL_STEP);
    if (strength > (steps[index] as number)) steps[index] = strength;
    if (strength > (steps[other] as number)) steps[other] = strength;
  };
  for (let y = 0, index = 0; y < height; y++) {
    for (let x = 0; x < width; x++, index++) {
      if (x < width - 1) compare(index, index + 1);
      if (y < height - 1) compare(index, index + width);
    }
  }
  const lines = new Uint8ClampedArray(pixels * 4);
  for (let index = 0, at = 0; index < pixels; index++, at += 4) {
    const alpha = steps[index] as number;
    if (alpha > 0) lines.set([...channels, alpha], at);
  }
  return lines;
}
