import type { Size } from '@/core/document/model';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import type { RenderRun } from '@/core/render/renderPlan';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { LoopMaker, LoopPart, LoopWork } from '@/workers/output/loop/loopMaker';
import type { LoopPacking } from '@/workers/output/loop/loopPacking';
import type { OutputJob } from '@/workers/output/outputFormat';

/** Pictures that follow one another are made by one, who has the one before already. */
const MOST_IN_A_ROW = 4;
/** Pictures in a row that are large are fewer, since all of them wait for whoever makes them. */
const ROW_BYTES = 16 * 1024 * 1024;
const MOST_SPARE = 4;

const copied = ({ pixels, order }: OrderedPixels): OrderedPixels => ({ pixels: pixels.slice(), order });

/** The pictures of a loop that are made while the next are rendered, several at once, and written in their order. */
export class LoopParts {
  private readonly making: { readonly run: RenderRun; readonly part: Promise<LoopPart> }[] = [];
  private readonly next: () => LoopMaker;
  private readonly inARow: number;
  private readonly mostMaking: number;
  private readonly pictureBytes: number;
  private readonly spare: Uint8Array[] = [];
  private maker: LoopMaker | null = null;
  /** The picture before, for another maker. */
  private before: OrderedPixels | null = null;
  private place = 0;

  constructor(
    private readonly file: LoopFile,
    private readonly job: OutputJob,
    work: LoopWork,
    packing: LoopPacking,
  ) {
    this.next = packing.makersFor(work);
    this.pictureBytes = bytesOf(work.size);
    this.inARow = Math.max(1, Math.min(MOST_IN_A_ROW, Math.floor(ROW_BYTES / this.pictureBytes)));
    this.mostMaking = packing.makersAtOnce * this.inARow;
  }

  /** Room for the pixels of the next picture; what others were in serves it. */
  room(): Uint8Array {
    return this.spare.pop() ?? new Uint8Array(this.pictureBytes);
  }

  /** Takes the picture of the next run. Its pixels are given away, unless they are needed again. */
  async add(run: RenderRun, pixels: OrderedPixels, isNeededAgain: boolean): Promise<void> {
    const { place, maker: lastMaker } = this;
    const maker = lastMaker && place % this.inARow !== 0 ? lastMaker : this.next();
    const before = place === 0 ? 'nothing' : maker === lastMaker ? 'last' : this.before;
    if (!before) throw new Error('Whoever begins a row of pictures is given the one before.');
    this.maker = maker;
    this.place++;
    this.before = this.place % this.inARow === 0 ? copied(pixels) : null;
    const part = maker.make({ ...(isNeededAgain ? copied(pixels) : pixels), place, before });
    // Whoever waits for it is told of what failed; until then it is no error of the page's.
    part.catch(() => undefined);
    this.making.push({ run, part });
    if (this.making.length > this.mostMaking) await this.writeNext();
  }

  /** Writes what is still being made. */
  async finish(): Promise<void> {
    while (this.making.length > 0) await this.writeNext();
  }

  private async writeNext(): Promise<void> {
    const next = this.making.shift();
    if (!next) return;
    const { bytes, note, room } = await next.part;
    this.file.add(bytes);
    if (!this.job.notes.recall(next.run.stack, note)) throw new Error('A picture of a loop was noted otherwise than it is held against.');
    if (room?.byteLength === this.pictureBytes && this.spare.length < MOST_SPARE) this.spare.push(room);
    this.job.onWritten(next.run.startFrame + next.run.frames);
  }
}

const bytesOf = ({ width, height }: Size): number => width * height * 4;
