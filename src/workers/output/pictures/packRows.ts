import { type PngFacts, pngRows } from '@/core/format/png/writePng';
import { deflated } from '@/workers/output/pictures/deflated';
import { withoutAlpha } from '@/workers/output/pictures/withoutAlpha';

/** Pixels (RGBA) packed as the rows of a PNG, with as many channels as it has. */
export const packRows = (rgba: Uint8Array, facts: PngFacts): Promise<Uint8Array> =>
  deflated(pngRows(facts, facts.channels === 4 ? rgba : withoutAlpha(rgba)));

/** Who packs rows, several at once where others help; the pixels are given away. */
export type RowPacking = {
  readonly packRows: (rgba: Uint8Array, facts: PngFacts) => Promise<Uint8Array>;
  /** How many pictures to ask for at once. */
  readonly atOnce: number;
};
