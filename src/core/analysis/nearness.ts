import type { BlockMeans, PictureMeasure } from '@/core/analysis/measure';

/** How far two pictures are apart: of the blocks either draws in, how many differ, and by how much at most (of 255). */
export type Nearness = { readonly drawnBlocks: number; readonly changedBlocks: number; readonly largestLevels: number };

/** A block differs from this many levels of 255 on: less is what saving a picture in another program does. */
const CHANGED_LEVELS = 10;
/** A movement changes some block by more than this; a speck does too, but hardly more than this many blocks. */
const STRONG_LEVELS = 40;
const SPECK_BLOCKS = 2;

const EMPTY: BlockMeans = { left: 0, top: 0, columns: 0, rows: 0, rgba: new Uint8Array(0) };

/** Holds two pictures of one size against each other by their block means; null is an empty picture. */
export function nearness(first: BlockMeans | null, second: BlockMeans | null): Nearness {
  const [a, b] = [first ?? EMPTY, second ?? EMPTY];
  const left = Math.min(a.left, b.left);
  const top = Math.min(a.top, b.top);
  const right = Math.max(a.left + a.columns, b.left + b.columns);
  const bottom = Math.max(a.top + a.rows, b.top + b.rows);
  let [drawnBlocks, changedBlocks, largestLevels] = [0, 0, 0];
  for (let row = top; row < bottom; row++) {
    const inA = row >= a.top && row < a.top + a.rows;
    const inB = row >= b.top && row < b.top + b.rows;
    if (!inA && !inB) continue;
    for (let column = left; column < right; column++) {
      const atA = inA && column >= a.left && column < a.left + a.columns ? ((row - a.top) * a.columns + column - a.left) * 4 : -1;
      const atB = inB && column >= b.left && column < b.left + b.columns ? ((row - b.top) * b.columns + column - b.left) * 4 : -1;
      let apart = 0;
      let drawn = 0;
      for (let channel = 0; channel < 4; channel++) {
        const valueA = atA < 0 ? 0 : (a.rgba[atA + channel] as number);
        const valueB = atB < 0 ? 0 : (b.rgba[atB + channel] as number);
        const difference = valueA > valueB ? valueA - valueB : valueB - valueA;
        if (difference > apart) apart = difference;
        drawn |= valueA | valueB;
      }
      if (drawn !== 0) drawnBlocks++;
      if (apart >= CHANGED_LEVELS) changedBlocks++;
      if (apart > largestLevels) largestLevels = apart;
    }
  }
  return { drawnBlocks, changedBlocks, largestLevels };
}

/** Whether two pictures are nearly one: no more than so many thousandths of what is drawn differ, and none strongly but a speck. */
export const isNear = ({ drawnBlocks, changedBlocks, largestLevels }: Nearness, perMille: number): boolean =>
  drawnBlocks > 0 && changedBlocks * 1000 <= perMille * drawnBlocks && (largestLevels < STRONG_LEVELS || changedBlocks <= SPECK_BLOCKS);

const MOST_INK_APART = 0.1;
const LEAST_INK_APART_PX = 64;
const MOST_CENTRE_APART_PX = 4;

/** Whether two pictures could be near at all, by what they measure: holding every picture of a level against every other has to be cheap. */
export function mayBeNear(a: PictureMeasure, b: PictureMeasure): boolean {
  if (!a.centre || !b.centre) return false;
  const inkApart = Math.abs(a.inkPixels - b.inkPixels);
  if (inkApart > Math.max(LEAST_INK_APART_PX, MOST_INK_APART * Math.max(a.inkPixels, b.inkPixels))) return false;
  return Math.hypot(a.centre.x - b.centre.x, a.centre.y - b.centre.y) <= MOST_CENTRE_APART_PX;
}
