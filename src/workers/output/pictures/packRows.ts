import { type PngFacts, pngRows } from '@/core/format/png/writePng';
import { withoutFourth } from '@/core/raster/compiledPixels';
import { deflated } from '@/workers/output/pictures/deflated';

/** Pixels (RGBA) packed as the rows of a PNG, with as many channels as it has. */
export const packRows = (rgba: Uint8Array, facts: PngFacts): Promise<Uint8Array> =>
  deflated(pngRows(facts, facts.channels === 4 ? rgba : withoutFourth(rgba)));
