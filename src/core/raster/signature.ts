import { compiledPlanes, PAST_THE_END_BYTES } from '@/core/raster/compiledPlanes';

/*
 * A picture's signature is its Y, U and V planes brought down by averaging square blocks: small enough
 * to keep one for each drawing of a film, yet a line a pixel wide still moves its blocks. Blocks are
 * sized so that the longer side has at most LONGEST_SIDE of them; chroma blocks cover the same area.
 */
const LONGEST_SIDE = 320;

/** Side of a block in luma pixels: a power of two from 2. */
export function blockSide(width: number, height: number): number {
  let side = 2;
  while (Math.max(width, height) / side > LONGEST_SIDE) side *= 2;
  return side;
}

/** A plane of 8-bit samples somewhere in a buffer. */
export type Plane = { readonly offset: number; readonly stride: number; readonly width: number; readonly height: number };

/** The three planes of a tightly packed I420 picture. */
export function i420Planes(width: number, height: number): readonly [Plane, Plane, Plane] {
  const luma = width * height;
  const half = { stride: width / 2, width: width / 2, height: height / 2 };
  return [
    { offset: 0, stride: width, width, height },
    { offset: luma, ...half },
    { offset: luma + luma / 4, ...half },
  ];
}

/** The planes of a picture: Y, U and V of 4:2:0, and its transparency, where it has any, as large as Y. */
export type PicturePlanes = readonly [Plane, Plane, Plane] | readonly [Plane, Plane, Plane, Plane];

/** The planes of a tightly packed I420A picture. */
export function i420aPlanes(width: number, height: number): PicturePlanes {
  const [y, u, v] = i420Planes(width, height);
  return [y, u, v, { ...y, offset: (width * height * 3) / 2 }];
}

/** The signature of a picture given as planes. */
export function signatureOfPlanes(data: Uint8Array, planes: PicturePlanes): Uint8Array {
  const side = blockSide(planes[0].width, planes[0].height);
  const sides = [side, side / 2, side / 2, side];
  const parts = planes.map((plane, index) => {
    const partSide = sides[index] as number;
    return { plane, side: partSide, means: Math.ceil(plane.width / partSide) * Math.ceil(plane.height / partSide) };
  });
  const length = parts.reduce((sum, { means }) => sum + means, 0);
  const end = Math.max(...planes.map(({ offset, stride, height }) => offset + stride * height));
  const { functions, memory } = compiledPlanes.withRoom(length + end + PAST_THE_END_BYTES);
  memory.set(data.subarray(0, end), length);
  let to = 0;
  for (const { plane, side: partSide, means } of parts) {
    functions.blockMeans(length + plane.offset, plane.stride, plane.width, plane.height, partSide, to);
    to += means;
  }
  return memory.slice(0, length);
}

/** Mean absolute difference of two signatures, in levels of 255; 255 when they are of different sizes. */
export function meanDifference(a: Uint8Array, b: Uint8Array): number {
  if (a.length !== b.length) return 255;
  const { functions, memory } = compiledPlanes.withRoom(2 * a.length);
  memory.set(a, 0);
  memory.set(b, a.length);
  return functions.sumApart(0, a.length, a.length) / a.length;
}

/** A block counts as changed from this many levels on: beyond what coding a film does to it. */
const CHANGED_LEVELS = 8;

/** The blocks in which two pictures differ beyond what coding does. */
export function changedBlocks(a: Uint8Array, b: Uint8Array): readonly number[] {
  const changed: number[] = [];
  for (let index = 0; index < a.length; index++) {
    if (Math.abs((a[index] as number) - (b[index] as number)) >= CHANGED_LEVELS) changed.push(index);
  }
  return changed;
}
