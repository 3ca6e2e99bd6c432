import { CompiledCode } from '@/core/compiledCode';
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
  readonly sumApart: (a: number, b: number, length: number) => number;
};

/** Pixels to planes and planes to signatures, many samples at once. */
export const compiledPlanes = new CompiledCode<PlanesCode>(PLANES_CODE);

/** The means of squares of samples, half up, row after row; those at the right and lower edge have as many samples as there are. */
export function squareMeans(samples: Uint8Array, width: number, height: number, side: number): Uint8Array {
  const means = Math.ceil(width / side) * Math.ceil(height / side);
  const { functions, memory } = compiledPlanes.withRoom(means + width * height);
  memory.set(samples.subarray(0, width * height), means);
  functions.blockMeans(means, width, width, height, side, 0);
  return memory.slice(0, means);
}
