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

function averageBlocks(data: Uint8Array, plane: Plane, side: number, out: Uint8Array, outOffset: number): number {
  const columns = Math.ceil(plane.width / side);
  const rows = Math.ceil(plane.height / side);
  const sums = new Uint32Array(columns);
  let target = outOffset;
  for (let row = 0; row < rows; row++) {
    sums.fill(0);
    const top = row * side;
    const lines = Math.min(side, plane.height - top);
    for (let line = 0; line < lines; line++) {
      let source = plane.offset + (top + line) * plane.stride;
      for (let column = 0; column < columns; column++) {
        const end = source + Math.min(side, plane.width - column * side);
        let sum = 0;
        while (source < end) sum += data[source++] as number;
        sums[column] = (sums[column] as number) + sum;
      }
    }
    for (let column = 0; column < columns; column++) {
      const samples = lines * Math.min(side, plane.width - column * side);
      out[target++] = ((sums[column] as number) + (samples >> 1)) / samples;
    }
  }
  return target;
}

/** The signature of a picture given as Y, U and V planes of 4:2:0. */
export function signatureOfPlanes(data: Uint8Array, planes: readonly [Plane, Plane, Plane]): Uint8Array {
  const side = blockSide(planes[0].width, planes[0].height);
  const blocks = (plane: Plane, size: number) => Math.ceil(plane.width / size) * Math.ceil(plane.height / size);
  const out = new Uint8Array(blocks(planes[0], side) + blocks(planes[1], side / 2) + blocks(planes[2], side / 2));
  let offset = averageBlocks(data, planes[0], side, out, 0);
  offset = averageBlocks(data, planes[1], side / 2, out, offset);
  averageBlocks(data, planes[2], side / 2, out, offset);
  return out;
}

/** Mean absolute difference of two signatures, in levels of 255; 255 when they are of different sizes. */
export function meanDifference(a: Uint8Array, b: Uint8Array): number {
  if (a.length !== b.length) return 255;
  let sum = 0;
  for (let index = 0; index < a.length; index++) sum += Math.abs((a[index] as number) - (b[index] as number));
  return sum / a.length;
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
