import { type GifPicture, gifPicture } from '@/core/format/gif/writeGif';
import { type Area, changedArea, cropped } from '@/core/raster/changedArea';
import { inPalette, type Quantised } from '@/core/raster/dither';
import { type Colour, ColourCount, NearestColour } from '@/core/raster/palette';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import type { GifWork, LoopMaker, LoopPart, LoopPicture } from '@/workers/output/loop/loopMaker';
import { noteOfPixels } from '@/workers/output/meantPictures';

/*
 * A GIF keeps what is seen until the next picture, which needs to hold no more than the rectangle that changes; pixels in it
 * that stay may be left out as transparent. Where there is transparency a pixel could not be taken away again, so each picture
 * is cleared before the next and holds all that is seen.
 */

/** A picture in the colours of its palette. */
type PaletteForm = Quantised & { readonly palette: readonly Colour[] };

const NOTHING: Area = { x: 0, y: 0, width: 1, height: 1 };
const MOST_INDICES = 256;

/** The shortest of several ways to say a picture of a GIF; the first of those. */
function shortest(ways: readonly GifPicture[]): Uint8Array {
  const [first, ...others] = ways.map(gifPicture);
  if (!first) throw new Error('A picture has to be said in some way.');
  return others.reduce((found, other) => (other.byteLength < found.byteLength ? other : found), first);
}

/** Makes the pictures of a GIF. */
export class GifMaker implements LoopMaker {
  private before: Uint32Array | null = null;
  /** One palette for all has its nearest colours found once. */
  private readonly nearest: NearestColour | null;

  constructor(private readonly work: GifWork) {
    this.nearest = work.palette && new NearestColour(work.palette);
  }

  async make({ place, before, ...pixels }: LoopPicture): Promise<LoopPart> {
    const { size, ground, comparing, centiseconds } = this.work;
    const last = before === 'last' ? this.before : before === 'nothing' ? null : this.quantised(before).words;
    const picture = this.quantised(pixels);
    const { words } = picture;
    this.before = words;
    // Held against the file is what its colours make of the picture.
    const seen = new Uint8Array(words.buffer, words.byteOffset, words.byteLength);
    const note = await noteOfPixels(comparing, size, ground, seen);
    const bytes = shortest(this.ways(picture, last, centiseconds[place] as number));
    return { bytes, note, room: last && new Uint8Array(last.buffer, last.byteOffset, last.byteLength) };
  }

  /** A picture in the colours of the palette for all, or of its own; its pixels are written over. */
  private quantised(pixels: OrderedPixels): PaletteForm {
    const { palette: shared, mostColours, dither, size } = this.work;
    let palette = shared;
    if (!palette) {
      const count = new ColourCount();
      count.take(pixels);
      palette = count.palette(mostColours);
    }
    return { ...inPalette(pixels, size, palette, dither, this.nearest ?? new NearestColour(palette)), palette };
  }

  /** How a picture can be stored, laid over the one before. */
  private ways(picture: PaletteForm, before: Uint32Array | null, centiseconds: number): GifPicture[] {
    const { size, ground, palette: shared } = this.work;
    const { indices, palette, words } = picture;
    const own = shared ? null : palette;
    if (ground === 'none') {
      const area = changedArea(new Uint32Array(words.length), words, size) ?? NOTHING;
      const colours = palette.length + 1;
      // One index more than there are colours: a palette of its own is made longer for it.
      const longer = own ? [...own, 0] : null;
      const cut = cropped(indices, size, area);
      return [{ area, indices: cut, palette: longer, colours, transparent: palette.length, centiseconds, disposal: 2 }];
    }
    const area = before ? (changedArea(before, words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const cut = cropped(indices, size, area);
    const whole: GifPicture = {
      ...{ area, indices: cut, palette: own, colours: palette.length, transparent: null, centiseconds, disposal: 1 },
    };
    const transparent = palette.length;
    // Where the table has no index to spare, leaving out would need one of twice its length.
    const hasSpare = transparent < MOST_INDICES && (shared ? Math.log2(transparent) % 1 !== 0 : true);
    if (!before || !hasSpare) return [whole];
    const [old, now] = [cropped(before, size, area), cropped(words, size, area)];
    const changes = cut.slice();
    for (let pixel = 0; pixel < changes.length; pixel++) if (old[pixel] === now[pixel]) changes[pixel] = transparent;
    return [whole, { ...whole, indices: changes, palette: own ? [...own, 0] : null, colours: transparent + 1, transparent }];
  }
}
