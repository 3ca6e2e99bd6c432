import { CompiledCode, NEAR_BYTES } from '@/core/compiledCode';
import { PALETTES_CODE } from '@/core/raster/palettesCode';
import type { OrderedPixels } from '@/core/raster/pixelOrder';

/** What `src/simd/palettes.ts` does; places are bytes from the beginning of its memory. */
type PalettesCode = {
  readonly countColours: (pixels: number, bytes: number, isBgra: boolean, slots: number, list: number) => number;
  readonly nearestOfAll: (
    ...all: readonly [
      pixels: number,
      bytes: number,
      isBgra: boolean,
      palette: number,
      colours: number,
      clear: number,
      words: number,
      known: number,
      indices: number,
    ]
  ) => void;
};

const NEAR_PIXELS = NEAR_BYTES / 4;

const counting = new CompiledCode<PalettesCode>(PALETTES_CODE);
const COUNT_SLOTS = NEAR_BYTES;
const COUNT_LIST = COUNT_SLOTS + 32_768 * 4;

/** Tells how often each colour (0xRRGGBB) is seen in a picture, in parts: one colour may be told several times. Clear pixels have none. */
export function countColours({ pixels, order }: OrderedPixels, onColour: (colour: number, pixels: number) => void): void {
  const { functions, memory } = counting.withRoom(COUNT_LIST + NEAR_PIXELS * 8);
  for (let start = 0; start < pixels.length; start += NEAR_BYTES) {
    const part = pixels.subarray(start, start + NEAR_BYTES);
    memory.set(part);
    const pairs = functions.countColours(0, part.length, order === 'BGRA', COUNT_SLOTS, COUNT_LIST);
    const list = new DataView(memory.buffer, COUNT_LIST, pairs * 8);
    for (let at = 0; at < pairs * 8; at += 8) onColour(list.getUint32(at, true), list.getUint32(at + 4, true));
  }
}

const INDICES = NEAR_BYTES;
const WORDS = INDICES + NEAR_PIXELS;
const PALETTE = WORDS + 257 * 4;
const KNOWN = PALETTE + 256 * 3 * 4;
const KNOWN_COLOURS = 65_536;
/** Further from any colour than any other. */
const NOT_A_PART = 1000;

const finding = new CompiledCode<PalettesCode>(PALETTES_CODE);
/** Whose palette lies in its memory: there is one for all, since browsers give only so many. */
let prepared: PaletteOfPixels | null = null;

/** Finds what is nearest in a palette (0xRRGGBB, 1 to 256 of them) to every pixel of pictures, and remembers what it found. */
export class PaletteOfPixels {
  constructor(private readonly palette: readonly number[]) {}

  private get padded(): number {
    return Math.ceil(this.palette.length / 4) * 4;
  }

  /** A palette in its place, with nothing found yet. */
  private prepare(memory: Uint8Array): void {
    const { palette, padded } = this;
    const view = new DataView(memory.buffer);
    const parts = (colour: number) => [colour >> 16, (colour >> 8) & 255, colour & 255];
    memory.fill(0, WORDS, PALETTE);
    for (const [index, colour] of palette.entries()) memory.set([...parts(colour), 255], WORDS + index * 4);
    for (let index = 0; index < padded; index++) {
      const colour = palette[index];
      const [red, green, blue] = colour === undefined ? [NOT_A_PART, NOT_A_PART, NOT_A_PART] : parts(colour);
      for (const [part, value] of [red, green, blue].entries()) view.setInt32(PALETTE + (part * padded + index) * 4, value as number, true);
    }
    memory.fill(255, KNOWN, KNOWN + KNOWN_COLOURS * 4);
    prepared = this;
  }

  /** An index for each pixel, past the last colour's where it is clear; over the pixels goes what that comes to (R G B A, 0 where it is clear). */
  find({ pixels, order }: OrderedPixels): Uint8Array {
    const { functions, memory } = finding.withRoom(KNOWN + KNOWN_COLOURS * 5);
    if (prepared !== this) this.prepare(memory);
    const indices = new Uint8Array(pixels.length >> 2);
    const { padded, palette } = this;
    for (let start = 0; start < pixels.length; start += NEAR_BYTES) {
      const part = pixels.subarray(start, start + NEAR_BYTES);
      memory.set(part);
      functions.nearestOfAll(0, part.length, order === 'BGRA', PALETTE, padded, palette.length, WORDS, KNOWN, INDICES);
      pixels.set(memory.subarray(0, part.length), start);
      indices.set(memory.subarray(INDICES, INDICES + (part.length >> 2)), start >> 2);
    }
    return indices;
  }
}
