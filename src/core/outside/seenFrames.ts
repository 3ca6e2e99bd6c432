import { GrowingRow } from '@/core/growingRow';
import { type Blocks, type Flat, flatOf, lookOf } from '@/core/outside/look';
import { LookRow, type Looks } from '@/core/outside/looks';
import { squareMeans } from '@/core/raster/compiledPlanes';
import { isRepeat } from '@/core/raster/lumaBlocks';

/** Whether a frame shows what the one before shows: to the last bit, but for what coding does, or not. */
export const REPEAT = { none: 0, near: 1, exact: 2 } as const;

/**
 * The frames of a film as they were seen, in their order: which of `pictures` each shows (`pictureOf`), and whether it
 * repeats the one before (`repeats`, of `REPEAT`). A picture that comes again later may be in `pictures` again.
 */
export type SeenFrames = {
  readonly frames: number;
  readonly pictureOf: Uint32Array;
  readonly repeats: Uint8Array;
  /** The look of each picture. */
  readonly pictures: Looks;
  /** Those of one colour all over, by their place in `pictures`. */
  readonly flats: ReadonlyMap<number, Flat>;
  /** The lowest and highest channel of all, of 255, each block by its mean; null where no frame was seen. */
  readonly colours: { readonly lowest: number; readonly highest: number } | null;
};

/** From so many frames on looks are kept coarse: those of ten hours of film take 120 MB then. */
const FRAMES_KEPT_FINE = 60_000;

/** What coding does to a held picture is known for blocks of more pixels a side than this (`isRepeat`); smaller ones are joined. */
const FINEST_BLOCK_PX = 2;

/** Blocks with two by two of them in one; what is left over at the sides is left out. */
function halved({ columns, rows, planes }: Blocks): Uint8Array {
  const [across, down] = [columns >> 1, rows >> 1];
  const out = new Uint8Array(across * down * 3);
  for (let plane = 0; plane < 3; plane++) {
    const own = planes.subarray(plane * columns * rows, (plane + 1) * columns * rows);
    out.set(squareMeans(own, across * 2, down * 2, 2, columns), plane * across * down);
  }
  return out;
}

/** ITU-R BT.709: 2 · (1 − Kb) and 2 · (1 − Kr). */
const BLUE = 1.8556;
const RED = 1.5748;

/** Takes the frames of a film one after another and keeps what they look like. */
export class FrameWatch {
  private readonly pictureOf = new GrowingRow<Uint32Array>(new Uint32Array(0), (length) => new Uint32Array(length));
  private readonly repeats = new GrowingRow<Uint8Array>(new Uint8Array(0), (length) => new Uint8Array(length));
  private readonly pictures = new LookRow();
  private readonly flats = new Map<number, Flat>();
  private shown: Uint8Array | null = null;
  private fingerprint: string | null = null;
  private taken = 0;
  private lowest = 255;
  private highest = 0;
  private readonly isCoarse: boolean;

  /** `frames` is how many are to be expected, as far as that is known. */
  constructor(frames: number) {
    this.isCoarse = frames > FRAMES_KEPT_FINE;
  }

  /**
   * Takes the next frame of a film so many pixels wide. Its blocks may be kept, and are not to be written to any more. `fingerprint` is
   * the same for pictures that are the same to the last bit, null where that wasn't looked at.
   */
  take(blocks: Blocks, widthPx: number, fingerprint: string | null): void {
    const planes = widthPx > FINEST_BLOCK_PX * blocks.columns ? blocks.planes : halved(blocks);
    const isExact = this.taken > 0 && fingerprint !== null && fingerprint === this.fingerprint;
    const isNear = isExact || (this.shown !== null && isRepeat(this.shown, planes));
    if (!isNear) {
      this.pictures.push(lookOf(blocks, this.isCoarse));
      const flat = flatOf(blocks);
      if (flat) this.flats.set(this.pictures.count - 1, flat);
      this.range(blocks);
      // A picture that changes little by little is held against the one it began with, so that it shows some time.
      this.shown = planes;
    }
    this.pictureOf.push(this.pictures.count - 1);
    this.repeats.push(isExact ? REPEAT.exact : isNear ? REPEAT.near : REPEAT.none);
    this.fingerprint = fingerprint;
    this.taken++;
  }

  /**
   * Takes the lowest and the highest channel of a picture, by ITU-R BT.709. A channel is no further from the brightness than the
   * colour differences reach, so that most blocks can be passed over: red and blue by RED and BLUE times theirs, green by less.
   */
  private range({ columns, rows, planes }: Blocks): void {
    const blocks = columns * rows;
    let { lowest, highest } = this;
    for (let block = 0; block < blocks && (lowest > 0 || highest < 255); block++) {
      const luma = (((planes[block] as number) - 16) * 255) / 219;
      const cb = (((planes[blocks + block] as number) - 128) * 255) / 224;
      const cr = (((planes[2 * blocks + block] as number) - 128) * 255) / 224;
      const reach = BLUE * Math.max(Math.abs(cb), Math.abs(cr));
      if (luma + reach <= highest && luma - reach >= lowest) continue;
      const blue = luma + BLUE * cb;
      const red = luma + RED * cr;
      const green = (luma - 0.2126 * red - 0.0722 * blue) / 0.7152;
      lowest = Math.min(lowest, red, green, blue);
      highest = Math.max(highest, red, green, blue);
    }
    this.lowest = Math.max(0, lowest);
    this.highest = Math.min(255, highest);
  }

  get seen(): SeenFrames {
    return {
      frames: this.taken,
      pictureOf: this.pictureOf.whole,
      repeats: this.repeats.whole,
      pictures: this.pictures.looks,
      flats: this.flats,
      colours: this.taken > 0 ? { lowest: Math.round(this.lowest), highest: Math.round(this.highest) } : null,
    };
  }
}

/** A run of frames of one kind, `startFrame` from 0. */
export type FrameSpan = { readonly startFrame: number; readonly frames: number };

/** The runs of frames of which something holds. */
export function spansWhere(frames: number, holds: (frame: number) => boolean): readonly FrameSpan[] {
  const spans: { startFrame: number; frames: number }[] = [];
  for (let frame = 0; frame < frames; frame++) {
    if (!holds(frame)) continue;
    const last = spans.at(-1);
    if (last && last.startFrame + last.frames === frame) last.frames++;
    else spans.push({ startFrame: frame, frames: 1 });
  }
  return spans;
}
