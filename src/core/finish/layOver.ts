import type { LayMode } from '@/core/document/finish';
import { BLENDING } from '@/core/raster/blend';

/*
 * A source lies over a backdrop as the W3C Compositing and Blending Level 1 specification has it. With colours C from 0 to 1,
 * alphas α (the source's times how much of it is laid), premultiplied colours c = C · α, and source-over:
 *   co = cs · (1 − αb) + cb · (1 − αs) + αs · αb · B(Cb, Cs),   αo = αs + αb − αs · αb.
 * Plus-lighter (Level 2) adds: co = min(1, cs + cb), αo = min(1, αs + αb).
 * Where both are opaque that is a table of 256 × 256 for a mode and an opacity, which is what films on paper are.
 */

const blended = (mode: LayMode, backdrop: number, source: number): number =>
  mode === 'plus-lighter' ? source : BLENDING[mode](backdrop, source);

const TABLES = new Map<string, Uint8ClampedArray>();
const MOST_TABLES = 16;

/** What comes of an opaque backdrop (the higher 8 bits) and an opaque source (the lower 8), both of 255. */
function tableOf(mode: LayMode, opacity: number): Uint8ClampedArray {
  const key = `${mode} ${opacity}`;
  let table = TABLES.get(key);
  if (!table) {
    table = new Uint8ClampedArray(65_536);
    for (let backdrop = 0; backdrop < 256; backdrop++) {
      for (let source = 0; source < 256; source++) {
        const [cb, cs] = [backdrop / 255, source / 255];
        const out = mode === 'plus-lighter' ? Math.min(1, cs * opacity + cb) : cb * (1 - opacity) + opacity * blended(mode, cb, cs);
        table[(backdrop << 8) | source] = Math.floor(out * 255 + 0.5);
      }
    }
    if (TABLES.size >= MOST_TABLES) TABLES.clear();
    TABLES.set(key, table);
  }
  return table;
}

/** Whole pixels as words, red in the lowest byte; null where they don't lie so. */
const wordsOf = ({ buffer, byteOffset, length }: Uint8ClampedArray): Uint32Array | null =>
  IS_RED_LOWEST && byteOffset % 4 === 0 ? new Uint32Array(buffer, byteOffset, length / 4) : null;
const IS_RED_LOWEST = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1;

function layWords(backdrop: Uint32Array, source: Uint32Array, table: Uint8ClampedArray): void {
  let [lastBelow, lastAbove, last] = [0, 0, 0];
  for (let at = 0; at < backdrop.length; at++) {
    const below = backdrop[at] as number;
    const above = source[at] as number;
    // Drawings have many pixels alike side by side.
    if (below !== lastBelow || above !== lastAbove || at === 0) {
      const red = table[((below & 0xff) << 8) | (above & 0xff)] as number;
      const green = table[(below & 0xff00) | ((above >>> 8) & 0xff)] as number;
      const blue = table[((below >>> 8) & 0xff00) | ((above >>> 16) & 0xff)] as number;
      last = (below & 0xff000000) | (blue << 16) | (green << 8) | red;
      [lastBelow, lastAbove] = [below, above];
    }
    backdrop[at] = last;
  }
}

function layOpaque(backdrop: Uint8ClampedArray, source: Uint8ClampedArray, table: Uint8ClampedArray): void {
  const [below, above] = [wordsOf(backdrop), wordsOf(source)];
  if (below && above) {
    layWords(below, above, table);
    return;
  }
  for (let at = 0; at < backdrop.length; at += 4) {
    backdrop[at] = table[((backdrop[at] as number) << 8) | (source[at] as number)] as number;
    backdrop[at + 1] = table[((backdrop[at + 1] as number) << 8) | (source[at + 1] as number)] as number;
    backdrop[at + 2] = table[((backdrop[at + 2] as number) << 8) | (source[at + 2] as number)] as number;
  }
}

/**
 * Lays a picture over another of the same size, in place: both RGBA, premultiplied. `opacity`, from 0 to 1, is how much of it
 * is laid; `areOpaque` says that neither has any transparency.
 */
export function layOver(backdrop: Uint8ClampedArray, source: Uint8ClampedArray, mode: LayMode, opacity: number, areOpaque: boolean): void {
  if (areOpaque) {
    layOpaque(backdrop, source, tableOf(mode, opacity));
    return;
  }
  for (let at = 0; at < backdrop.length; at += 4) {
    const alphaBelow = (backdrop[at + 3] as number) / 255;
    const alpha = ((source[at + 3] as number) / 255) * opacity;
    if (alpha === 0) continue;
    for (let channel = at; channel < at + 3; channel++) {
      const below = (backdrop[channel] as number) / 255;
      const above = ((source[channel] as number) / 255) * opacity;
      const out =
        mode === 'plus-lighter'
          ? above + below
          : above * (1 - alphaBelow) +
            below * (1 - alpha) +
            (alphaBelow === 0 ? 0 : alpha * alphaBelow * blended(mode, Math.min(1, below / alphaBelow), Math.min(1, above / alpha)));
      backdrop[channel] = Math.floor(Math.min(1, out) * 255 + 0.5);
    }
    const out = mode === 'plus-lighter' ? alpha + alphaBelow : alpha + alphaBelow - alpha * alphaBelow;
    backdrop[at + 3] = Math.floor(Math.min(1, out) * 255 + 0.5);
  }
}
