import { MEASURES_CODE } from '@/core/analysis/measuresCode';
import { CompiledCode } from '@/core/compiledCode';

/** What `src/simd/measures.ts` does; places are bytes from the beginning of its memory. */
type MeasuresCode = {
  readonly measure: (pixels: number, width: number, height: number, side: number, toBlocks: number, to: number) => void;
  readonly light: (
    ...picture: readonly [
      pixels: number,
      width: number,
      height: number,
      cellPx: number,
      columns: number,
      left: number,
      top: number,
      right: number,
      bottom: number,
      linear: number,
      between: number,
      toSpans: number,
      toValues: number,
    ]
  ) => number;
};

/** What pictures measure and the light they give, four pixels at once. */
export const compiledMeasures = new CompiledCode<MeasuresCode>(MEASURES_CODE);
