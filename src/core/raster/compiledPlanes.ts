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
