import { GIF_END, gifHead, gifPicture } from '@/core/format/gif/writeGif';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { type Area, changedArea, cropped } from '@/core/raster/changedArea';
import { fingerprintOf } from '@/core/raster/digest';
import { inPalette, onMatte, wordsOf } from '@/core/raster/dither';
import { type Colour, ColourCount, NearestColour, wordOf } from '@/core/raster/palette';
import type { RenderPlan } from '@/core/render/renderPlan';
import { roundedDurations } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { OutputJob } from '@/workers/output/outputFormat';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/*
 * A GIF keeps what is seen until the next picture, which needs to hold no more than the rectangle that changes; pixels in it
 * that stay may be left out as transparent. Where there is transparency a pixel could not be taken away again, so each picture
 * is cleared before the next and holds all that is seen.
 */

/** A picture in the colours of its palette. `transparent` is the index that no colour has. */
type Quantised = { readonly indices: Uint8Array; readonly palette: readonly Colour[]; readonly words: Uint32Array };

const CENTISECONDS = 100;

const colourOf = (text: string): Colour => Number.parseInt(text.slice(1), 16);

/** The pixels of a picture as a GIF can hold them: each seen or not. */
async function pixelsFor(picture: RenderedPicture, { matte }: LoopOptions): Promise<Uint8Array> {
  const pixels = await picture.rgbaPixels();
  return picture.ground === 'none' ? onMatte(pixels, colourOf(matte)) : pixels;
}

class GifLoop {
  private readonly isClear: boolean;
  /** Pixels of pictures that were rendered for their colours, as far as there is room. */
  private readonly kept = new Map<number, Uint8Array>();
  private keptBytes = 0;
  private nearest: NearestColour | null = null;
  /** What was made of those, which takes as much room at most. */
  private readonly made = new Map<number, Quantised>();

  constructor(
    private readonly plan: RenderPlan,
    private readonly options: LoopOptions,
    private readonly job: OutputJob,
    private readonly file: LoopFile,
  ) {
    this.isClear = job.ground === 'none';
  }

  /** One colour fewer where something is transparent. */
  private get mostColours(): number {
    return Math.max(1, this.options.colours - (this.isClear ? 1 : 0));
  }

  /** A picture's pixels, as they stay: the next is rendered into the same room. */
  private remember(pixels: Uint8Array): Uint8Array {
    this.keptBytes += pixels.byteLength;
    return this.keptBytes <= MOST_KEPT_BYTES ? pixels.slice() : pixels;
  }

  /** The palette for all pictures, from the colours of each. */
  private async wholePalette(): Promise<readonly Colour[]> {
    const count = new ColourCount();
    const seen = new Set<number>();
    const { plan, job, options } = this;
    const pictures = job.pictures(
      async (picture) => this.remember(await pixelsFor(picture, options)),
      () => 0,
      'maker',
    );
    for (const [index, { stack }] of plan.runs.entries()) {
      job.stop.throwIfAborted();
      if (!seen.has(stack)) {
        const pixels = await pictures.ofRun(index);
        count.take(pixels);
        if (this.keptBytes <= MOST_KEPT_BYTES) this.kept.set(stack, pixels);
        // No frame is written yet; how many pictures were made is told.
        job.onWritten(0);
      }
      seen.add(stack);
    }
    return count.palette(this.mostColours);
  }

  private quantised(pixels: Uint8Array, shared: readonly Colour[] | null): Quantised {
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
    const indices = inPalette(pixels, plan.size, palette, options.dither, palette.length, nearest);
    const words = wordsOf(indices, Uint32Array.from([...palette.map(wordOf), 0]));
    return { indices, palette, words };
  }

  /** The smallest that a picture can be stored as, laid over the one before. */
  private stored(picture: Quantised, before: Uint32Array | null, shared: boolean, centiseconds: number): Uint8Array {
    const { size } = this.plan;
    const { indices, palette, words } = picture;
    const own = shared ? null : palette;
    if (this.isClear) {
      const area = changedArea(new Uint32Array(words.length), words, size) ?? NOTHING;
      const colours = palette.length + 1;
      // One index more than there are colours: a palette of its own is made longer for it.
      const longer = own ? [...own, 0] : null;
      return gifPicture({
        ...{ area, indices: cropped(indices, size, area), palette: longer, colours, transparent: palette.length, centiseconds },
        disposal: 2,
      });
    }
    const area = before ? (changedArea(before, words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const cut = cropped(indices, size, area);
    const whole = gifPicture({ area, indices: cut, palette: own, colours: palette.length, transparent: null, centiseconds, disposal: 1 });
    const transparent = palette.length;
    // Where the table has no index to spare, leaving out would need one of twice its length.
    const hasSpare = transparent < MOST_INDICES && (shared ? Math.log2(transparent) % 1 !== 0 : true);
    if (!before || !hasSpare) return whole;
    const [old, now] = [cropped(before, size, area), cropped(words, size, area)];
    for (let pixel = 0; pixel < cut.length; pixel++) if (old[pixel] === now[pixel]) cut[pixel] = transparent;
    const left = gifPicture({
      ...{ area, indices: cut, palette: own ? [...own, 0] : null, colours: transparent + 1, transparent, centiseconds },
      disposal: 1,
    });
    return left.byteLength < whole.byteLength ? left : whole;
  }

  async write(): Promise<void> {
    const { plan, options, job, file } = this;
    const durations = roundedDurations(heldInLoop(plan, options), plan.rate, CENTISECONDS);
    const shared = options.palette === 'whole' ? await this.wholePalette() : null;
    file.add(gifHead(plan.size, shared && (this.isClear ? [...shared, 0] : shared), options.plays));
    const pictures = job.pictures(
      async (picture) => this.quantised(await pixelsFor(picture, options), shared),
      ({ indices, words }) => indices.byteLength + words.byteLength,
      'maker',
    );
    let before: Uint32Array | null = null;
    for (const [index, run] of plan.runs.entries()) {
      job.stop.throwIfAborted();
      const kept = this.kept.get(run.stack);
      const known = this.made.get(run.stack);
      const picture = known ?? (kept ? this.quantised(kept, shared) : await pictures.ofRun(index));
      if (kept && !known) this.made.set(run.stack, picture);
      this.kept.delete(run.stack);
      // Held against the file is what its colours make of the picture.
      job.notes.recall(run.stack, { fingerprint: await fingerprintOf(new Uint8Array(picture.words.buffer)) });
      file.add(this.stored(picture, before, shared !== null, durations[index] as number));
      before = picture.words;
      job.onWritten(run.startFrame + run.frames);
    }
    file.add(GIF_END);
  }
}

const NOTHING: Area = { x: 0, y: 0, width: 1, height: 1 };
const MOST_INDICES = 256;
const MOST_KEPT_BYTES = 128 * 1024 * 1024;

/** Writes a plan as a GIF, each run of frames as one picture. */
export const writeGifLoop = (plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile): Promise<void> =>
  new GifLoop(plan, options, job, file).write();
