import { GIF_END, gifHead } from '@/core/format/gif/writeGif';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { onMatte } from '@/core/raster/dither';
import { type Colour, ColourCount } from '@/core/raster/palette';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import type { RenderPlan } from '@/core/render/renderPlan';
import { roundedDurations } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { GifWork } from '@/workers/output/loop/loopMaker';
import type { LoopPacking } from '@/workers/output/loop/loopPacking';
import { LoopParts } from '@/workers/output/loop/loopParts';
import type { OutputJob } from '@/workers/output/outputFormat';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

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
    for (const [index, { stack, startFrame, frames }] of plan.runs.entries()) {
      job.stop.throwIfAborted();
      if (!seen.has(stack)) {
        const pixels = await pictures.ofRun(index);
        count.take(pixels);
        if (this.hasRoom) {
          this.kept.set(stack, pixels);
          this.keptBytes += this.pictureBytes;
        }
      }
      seen.add(stack);
      job.onLookedAt(startFrame + frames);
    }
    this.spare = null;
    return count.palette(this.mostColours);
  }

  async write(): Promise<void> {
    const { plan, options, job, file, packing } = this;
    const { ground, notes } = job;
    const centiseconds = roundedDurations(heldInLoop(plan, options), plan.rate, CENTISECONDS);
    const palette = options.palette === 'whole' ? await this.wholePalette() : null;
    file.add(gifHead(plan.size, palette && (this.isClear ? [...palette, 0] : palette), options.plays));
    const { mostColours } = this;
    const work: GifWork = {
      ...{ kind: 'gif', size: plan.size, ground, comparing: notes.comparingPixels },
      ...{ palette, mostColours, dither: options.dither, centiseconds },
    };
    const parts = new LoopParts(file, job, work, packing);
    const pictures = job.pictures(
      (picture) => pixelsFor(picture, options, () => parts.room()),
      ({ pixels }) => pixels.byteLength,
      'maker',
    );
    const lastRun = new Map(plan.runs.map(({ stack }, index) => [stack, index]));
    for (const [index, run] of plan.runs.entries()) {
      job.stop.throwIfAborted();
      const kept = this.kept.get(run.stack);
      const pixels = kept ?? (await pictures.ofRun(index));
      const isNeededAgain = kept ? lastRun.get(run.stack) !== index : pictures.keeps(index);
      await parts.add(run, pixels, isNeededAgain);
      if (!isNeededAgain) this.kept.delete(run.stack);
    }
    await parts.finish();
    file.add(GIF_END);
  }
}

const MOST_KEPT_BYTES = 128 * 1024 * 1024;

/** Writes a plan as a GIF, each run of frames as one picture. */
export const writeGifLoop = (plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile, packing: LoopPacking): Promise<void> =>
  new GifLoop(plan, options, job, file, packing).write();
