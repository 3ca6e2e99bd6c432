import { quantize } from 'gifenc';
import { countColours, PaletteOfPixels } from '@/core/raster/compiledPalettes';
import { LITTLE_ENDIAN, type OrderedPixels } from '@/core/raster/pixelOrder';

/*
 * Palettes of a few colours, and pictures in them. Where there are no more colours than asked for, the palette is those
 * colours and every pixel is kept. Else colours are brought together by pairwise nearest neighbours (a kept library's).
 */

/** A colour as 0xRRGGBB. */
export type Colour = number;

/** How often each colour was seen. */
export class ColourCount {
  private readonly counts = new Map<Colour, number>();

  /** Takes the pixels of a picture that are not transparent. */
  take(picture: OrderedPixels): void {
    const { counts } = this;
    countColours(picture, (colour, pixels) => counts.set(colour, (counts.get(colour) ?? 0) + pixels));
  }

  get distinct(): number {
    return this.counts.size;
  }

  /** A palette of at most so many colours (2 to 256), the most used first; one colour at least. */
  palette(most: number): readonly Colour[] {
    if (this.counts.size <= most) {
      const all = [...this.counts].sort(([a, often], [b, other]) => other - often || a - b).map(([colour]) => colour);
      return all.length > 0 ? all : [0];
    }
    const quantised = quantize(this.sample(), most, { format: 'rgb565' });
    return quantised.map(([r, g, b]) => ((r as number) << 16) | ((g as number) << 8) | (b as number));
  }

  /** Every colour as often as it was seen, in proportion and at least once, as pixels. */
  private sample(): Uint8Array {
    const total = [...this.counts.values()].reduce((sum, count) => sum + count, 0);
    const part = Math.min(1, SAMPLE_PIXELS / total);
    const times = [...this.counts].map(([colour, count]): [Colour, number] => [colour, Math.max(1, Math.round(count * part))]);
    const rgba = new Uint32Array(times.reduce((sum, [, count]) => sum + count, 0));
    let at = 0;
    for (const [colour, count] of times) {
      rgba.fill(wordOf(colour), at, at + count);
      at += count;
    }
    return new Uint8Array(rgba.buffer);
  }
}

const SAMPLE_PIXELS = 500_000;

/** An opaque colour as four bytes R G B A read as one word of this machine. */
export function wordOf(colour: Colour): number {
  const [r, g, b] = [colour >> 16, (colour >> 8) & 255, colour & 255];
  return LITTLE_ENDIAN ? ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0 : ((r << 24) | (g << 16) | (b << 8) | 255) >>> 0;
}

const CACHE_BITS = 16;

/** Finds the nearest colour of a palette, by the sum of the squares of the differences; the first where several are as near. */
export class NearestColour {
  private readonly red;
  private readonly green;
  private readonly blue;
  private readonly keys = new Int32Array(1 << CACHE_BITS).fill(-1);
  private readonly found = new Uint8Array(1 << CACHE_BITS);
  /** The same for every pixel of a picture. */
  readonly ofPixels: PaletteOfPixels;

  constructor(palette: readonly Colour[]) {
    this.ofPixels = new PaletteOfPixels(palette);
    this.red = Int32Array.from(palette, (colour) => colour >> 16);
    this.green = Int32Array.from(palette, (colour) => (colour >> 8) & 255);
    this.blue = Int32Array.from(palette, (colour) => colour & 255);
  }

  /** The index of the colour nearest to one whose parts are from 0 to 255. */
  of(r: number, g: number, b: number): number {
    const key = (r << 16) | (g << 8) | b;
    const slot = (Math.imul(key, 0x9e3779b1) >>> (32 - CACHE_BITS)) & ((1 << CACHE_BITS) - 1);
    if (this.keys[slot] === key) return this.found[slot] as number;
    let [best, least] = [0, Number.POSITIVE_INFINITY];
    for (let index = 0; index < this.red.length; index++) {
      const [dr, dg, db] = [r - (this.red[index] as number), g - (this.green[index] as number), b - (this.blue[index] as number)];
      const apart = dr * dr + dg * dg + db * db;
      if (apart >= least) continue;
      [best, least] = [index, apart];
      if (apart === 0) break;
    }
    this.keys[slot] = key;
    this.found[slot] = best;
    return best;
  }
}
