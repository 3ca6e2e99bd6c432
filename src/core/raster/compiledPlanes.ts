import { CompiledCode, NEAR_BYTES } from '@/core/compiledCode';
import { PLANES_CODE } from '@/core/raster/planesCode';

type Weights = readonly [first: number, second: number, third: number];

/** What `src/simd/planes.ts` does; places are bytes from the beginning of its memory. */
type PlanesCode = {
  readonly planes: (
    ...pixels: readonly [
      pixels: number,
      width: number,
      height: number,
      toY: number,
      toU: number,
      toV: number,
      ...y: Weights,
      yBase: number,
      ...u: Weights,
      ...v: Weights,
      quadBase: number,
    ]
  ) => void;
  readonly blockMeans: (from: number, stride: number, width: number, height: number, side: number, to: number) => void;
  readonly areaMeans: (from: number, width: number, height: number, across: number, down: number, room: number, to: number) => void;
  readonly sumApart: (a: number, b: number, length: number) => number;
  readonly blocksOnPaper: (
    ...pixels: readonly [
      pixels: number,
      width: number,
      height: number,
      bytes: number,
      side: number,
      room: number,
      to: number,
      planeBytes: number,
    ]
  ) => void;
};

/** Pixels to planes and planes to signatures, many samples at once. */
export const compiledPlanes = new CompiledCode<PlanesCode>(PLANES_CODE);

/** What is worked out sixteen bytes at once reads and writes past the end by less than this. */
export const PAST_THE_END_BYTES = 32;

/**
 * The means of squares of samples, half up, row after row; those at the right and lower edge have as many samples as there are.
 * `stride` is how many samples lie from one line to the next.
 */
export function squareMeans(samples: Uint8Array, width: number, height: number, side: number, stride = width): Uint8Array {
  const means = Math.ceil(width / side) * Math.ceil(height / side);
  const { functions, memory } = compiledPlanes.withRoom(means + stride * height + PAST_THE_END_BYTES);
  memory.set(samples.subarray(0, stride * height), means);
  functions.blockMeans(means, stride, width, height, side, 0);
  return memory.slice(0, means);
}

/**
 * The means of samples in each of `across` × `down` cells that part a plane, by area, half up, row after row. Sides are at most 2048
 * samples or cells.
 */
export function areaMeans(samples: Uint8Array, width: number, height: number, across: number, down: number): Uint8Array {
  const means = across * down;
  const room = means + width * height + PAST_THE_END_BYTES;
  const { functions, memory } = compiledPlanes.withRoom(room + width * 4 + 64);
  memory.set(samples.subarray(0, width * height), means);
  functions.areaMeans(means, width, height, across, down, room, 0);
  return memory.slice(0, means);
}

/**
 * Square blocks of pixels of three bytes, or of four with straight alpha laid on white, row by row, as planes of their means one after
 * another: Y, Cb and Cr by ITU-R BT.709 in limited range, to the nearest. Blocks at the right and lower edge have as many pixels as there
 * are. `side` is at most 64.
 */
export function blocksOnPaper(pixels: Uint8Array, width: number, height: number, bytes: 3 | 4, side: number): Uint8Array {
  const columns = Math.ceil(width / side);
  const planeBytes = columns * Math.ceil(height / side);
  const lineBytes = width * bytes;
  const lines = side * Math.max(1, Math.floor(NEAR_BYTES / (side * lineBytes)));
  const strip = planeBytes * 3;
  const room = strip + lines * lineBytes + PAST_THE_END_BYTES;
  const { functions, memory } = compiledPlanes.withRoom(room + lineBytes * 2 + PAST_THE_END_BYTES);
  for (let top = 0, to = 0; top < height; top += lines, to += (lines / side) * columns) {
    memory.set(pixels.subarray(top * lineBytes, Math.min(height, top + lines) * lineBytes), strip);
    functions.blocksOnPaper(strip, width, Math.min(lines, height - top), bytes, side, room, to, planeBytes);
  }
  return memory.slice(0, planeBytes * 3);
}
