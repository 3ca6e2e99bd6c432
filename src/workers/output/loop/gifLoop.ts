import { GIF_END, type GifPicture, gifHead } from '@/core/format/gif/writeGif';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { type Area, changedArea, cropped } from '@/core/raster/changedArea';
import { inPalette, onMatte, type Quantised } from '@/core/raster/dither';
import { type Colour, ColourCount, NearestColour } from '@/core/raster/palette';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import type { RenderPlan } from '@/core/render/renderPlan';
import { roundedDurations } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { LoopPacking } from '@/workers/output/loop/loopPacking';
import { PackedParts } from '@/workers/output/loop/packedParts';
import type { OutputJob } from '@/workers/output/outputFormat';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/*
 * A GIF keeps what is seen until the next picture, which needs to hold no more than the rectangle that changes; pixels in it
 * that stay may be left out as transparent. Where there is transparency a pixel could not be taken away again, so each picture
 * is cleared before the next and holds all that is seen.
 */

/** A picture in the colours of its palette. */
type PaletteForm = Quantised & { readonly palette: readonly Colour[] };

const CENTISECONDS = 100;

const colourOf = (text: string): Colour => Number.parseInt(text.slice(1), 16);

/** The pixels of a picture as a GIF can hold them, each seen or not: in `room` where they can be, and whoever asks has them to himself. */
async function pixelsFor(picture: RenderedPicture, { matte }: LoopOptions, room: () => Uint8Array): Promise<OrderedPixels> {
  if (picture.ground === 'none') return { pixels: onMatte(picture.straightPixels(), colourOf(matte)), order: 'RGBA' };
  return picture.ownPixels(room());
}

class GifLoop {
  private readonly isClear: boolean;
  /** Pixels of pictures that were rendered for their colours, as far as there is room. */
  private readonly kept = new Map<number, OrderedPixels>();
  private keptBytes = 0;
  /** Room for one of which only the colours are wanted. */
  private spare: Uint8Array | null = null;
  private nearest: NearestColour | null = null;
  /** What was made of those, which takes as much room at most. */
  private readonly made = new Map<number, PaletteForm>();

  constructor(
    private readonly plan: RenderPlan,
    private readonly options: LoopOptions,
    private readonly job: OutputJob,
    private readonly file: LoopFile,
    private readonly packing: LoopPacking,
  ) {
    this.isClear = job.ground === 'none';
  }

  /** One colour fewer where something is transparent. */
  private get mostColours(): number {
    return Math.max(1, this.options.colours - (this.isClear ? 1 : 0));
  }

  private get pictureBytes(): number {
    return this.plan.size.width * this.plan.size.height * 4;
  }

  private get hasRoom(): boolean {
    return this.keptBytes + this.pictureBytes <= MOST_KEPT_BYTES;
  }

  /** Where the pixels of the next picture go: they stay, as far as there is room. */
  private roomForColours(): Uint8Array {
    if (this.hasRoom) return new Uint8Array(this.pictureBytes);
    this.spare ??= new Uint8Array(this.pictureBytes);
    return this.spare;
  }

  /** The palette for all pictures, from the colours of each. */
  private async wholePalette(): Promise<readonly Colour[]> {
    const count = new ColourCount();
    const seen = new Set<number>();
    const { plan, job, options } = this;
    const pictures = job.pictures(
      (picture) => pixelsFor(picture, options, () => this.roomForColours()),
      () => 0,
      'maker',
    );
    for (const [index, { stack }] of plan.runs.entries()) {
      job.stop.throwIfAborted();
      if (!seen.has(stack)) {
        const pixels = await pictures.ofRun(index);
        count.take(pixels);
        if (this.hasRoom) {
          this.kept.set(stack, pixels);
          this.keptBytes += this.pictureBytes;
        }
        // No frame is written yet; how many pictures were made is told.
        job.onWritten(0);
      }
      seen.add(stack);
    }
    this.spare = null;
    return count.palette(this.mostColours);
  }

  /** A picture in the colours of the palette for all, or of its own; its pixels are written over. */
  private quantised(pixels: OrderedPixels, shared: readonly Colour[] | null): PaletteForm {
    const { plan, options } = this;
    let palette = shared;
    if (!palette) {
      const count = new ColourCount();
      count.take(pixels);
      palette = count.palette(this.mostColours);
    }
    // One palette for all has its nearest colours found once.
    const nearest = (shared && this.nearest) || new NearestColour(palette);
    if (shared) this.nearest = nearest;
    return { ...inPalette(pixels, plan.size, palette, options.dither, nearest), palette };
  }

  /** How a picture can be stored, laid over the one before. */
  private ways(picture: PaletteForm, before: Uint32Array | null, shared: boolean, centiseconds: number): GifPicture[] {
    const { size } = this.plan;
    const { indices, palette, words } = picture;
    const own = shared ? null : palette;
    if (this.isClear) {
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

  async write(): Promise<void> {
    const { plan, options, job, file, packing } = this;
    const durations = roundedDurations(heldInLoop(plan, options), plan.rate, CENTISECONDS);
    const shared = options.palette === 'whole' ? await this.wholePalette() : null;
    file.add(gifHead(plan.size, shared && (this.isClear ? [...shared, 0] : shared), options.plays));
    const pictures = job.pictures(
      async (picture) => this.quantised(await pixelsFor(picture, options, () => new Uint8Array(this.pictureBytes)), shared),
      ({ indices, words }) => indices.byteLength + words.byteLength,
      'maker',
    );
    const parts = new PackedParts(file, job, packing.atOnce);
    let before: Uint32Array | null = null;
    for (const [index, run] of plan.runs.entries()) {
      job.stop.throwIfAborted();
      const kept = this.kept.get(run.stack);
      const known = this.made.get(run.stack);
      const picture = known ?? (kept ? this.quantised(kept, shared) : await pictures.ofRun(index));
      if (kept && !known) this.made.set(run.stack, picture);
      this.kept.delete(run.stack);
      // Held against the file is what its colours make of the picture.
      const { words } = picture;
      await job.notes.takePixels(run.stack, plan.size, job.ground, new Uint8Array(words.buffer, words.byteOffset, words.byteLength));
      await parts.add(run, packing.packGif(this.ways(picture, before, shared !== null, durations[index] as number)));
      before = words;
    }
    await parts.finish();
    file.add(GIF_END);
  }
}

const NOTHING: Area = { x: 0, y: 0, width: 1, height: 1 };
const MOST_INDICES = 256;
const MOST_KEPT_BYTES = 128 * 1024 * 1024;

/** Writes a plan as a GIF, each run of frames as one picture. */
export const writeGifLoop = (plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile, packing: LoopPacking): Promise<void> =>
  new GifLoop(plan, options, job, file, packing).write();
