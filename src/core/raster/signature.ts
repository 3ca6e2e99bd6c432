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

/** Averages blocks one sample after another: for any side, and for planes that lie at odd places. */
function averageAnyBlocks(data: Uint8Array, plane: Plane, side: number, out: Uint8Array, outOffset: number): number {
  const columns = Math.ceil(plane.width / side);
  const rows = Math.ceil(plane.height / side);
  let target = outOffset;
  for (let row = 0; row < rows; row++) {
    const top = row * side;
    const lines = Math.min(side, plane.height - top);
    for (let column = 0; column < columns; column++) {
      const across = Math.min(side, plane.width - column * side);
      let sum = 0;
      for (let line = 0; line < lines; line++) {
        const start = plane.offset + (top + line) * plane.stride + column * side;
        for (let source = start; source < start + across; source++) sum += data[source] as number;
      }
      out[target++] = (sum + ((lines * across) >> 1)) / (lines * across);
    }
  }
  return target;
}

/*
 * Summing four samples at a time. A word of four samples, in little-endian order
 *
 *   w = s0 + s1·2⁸ + s2·2¹⁶ + s3·2²⁴
 *
 * is parted by a mask into its even samples, w & 00ff00ff = s0 + s2·2¹⁶, and its odd ones, (w >> 8) & 00ff00ff =
 * s1 + s3·2¹⁶. Their sum holds s0 + s1 in its lower and s2 + s3 in its upper 16 bits. Such sums are added up over a
 * block, and the two halves together are the block's total. No half may pass 2¹⁶ − 1 = 65535: a pair is at most
 * 2·255 = 510, so that 128 words fit (65280), and the largest block, of 16 × 16 samples, has 64.
 */
const PAIRS = 0x00ff00ff;

/** Blocks whose side is a multiple of four samples. */
function averageWordBlocks(words: Int32Array, plane: Plane, side: number, out: Uint8Array, outOffset: number): number {
  const stride = plane.stride >> 2;
  const perBlock = side >> 2;
  const columns = plane.width / side;
  const rows = plane.height / side;
  const half = (side * side) >> 1;
  const shift = 2 * Math.log2(side);
  let target = outOffset;
  for (let row = 0; row < rows; row++) {
    const rowStart = (plane.offset >> 2) + row * side * stride;
    for (let column = 0; column < columns; column++) {
      let pairs = 0;
      let start = rowStart + column * perBlock;
      for (let line = 0; line < side; line++, start += stride) {
        for (let word = start; word < start + perBlock; word++) {
          const samples = words[word] as number;
          pairs += (samples & PAIRS) + ((samples >>> 8) & PAIRS);
        }
      }
      out[target++] = ((pairs & 0xffff) + (pairs >>> 16) + half) >> shift;
    }
  }
  return target;
}

/** Blocks of two samples a side: each half of a word's pairs is a block of its own. */
function averagePairBlocks(words: Int32Array, plane: Plane, out: Uint8Array, outOffset: number): number {
  const stride = plane.stride >> 2;
  const perRow = plane.width >> 2;
  let target = outOffset;
  for (let y = 0; y < plane.height; y += 2) {
    let upper = (plane.offset + y * plane.stride) >> 2;
    for (let word = 0; word < perRow; word++, upper++) {
      const above = words[upper] as number;
      const below = words[upper + stride] as number;
      const pairs = (above & PAIRS) + ((above >>> 8) & PAIRS) + (below & PAIRS) + ((below >>> 8) & PAIRS);
      out[target++] = ((pairs & 0xffff) + 2) >> 2;
      out[target++] = ((pairs >>> 16) + 2) >> 2;
    }
  }
  return target;
}

function averageBlocks(data: Uint8Array, plane: Plane, side: number, out: Uint8Array, outOffset: number): number {
  const aligned = (data.byteOffset | plane.offset | plane.stride | plane.width) % 4 === 0 && LITTLE_ENDIAN;
  const whole = plane.width % side === 0 && plane.height % side === 0;
  if (!aligned || !whole || side > 16 || side === 1) return averageAnyBlocks(data, plane, side, out, outOffset);
  const words = new Int32Array(data.buffer, data.byteOffset, data.byteLength >> 2);
  return side === 2 ? averagePairBlocks(words, plane, out, outOffset) : averageWordBlocks(words, plane, side, out, outOffset);
}

const LITTLE_ENDIAN = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1;

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
  const blocks = (plane: Plane, size: number) => Math.ceil(plane.width / size) * Math.ceil(plane.height / size);
  const sides = [side, side / 2, side / 2, side];
  const out = new Uint8Array(planes.reduce((sum, plane, index) => sum + blocks(plane, sides[index] as number), 0));
  let offset = 0;
  for (const [index, plane] of planes.entries()) offset = averageBlocks(data, plane, sides[index] as number, out, offset);
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
