import { nearKey, type PictureFacts, type PictureTrouble } from '@/core/check/facts';
import { type Flashes, type FlashKind, type LightRun, worstFlashes } from '@/core/check/flashRule';
import { type LightCells, lightOfStack } from '@/core/raster/light';
import { type BlockMeans, measurePicture, type PictureMeasure } from '@/core/raster/measure';
import { isNear, mayBeNear, type Nearness, nearness } from '@/core/raster/nearness';
import type { FrameRun, PictureStack } from '@/core/reel/stacks';
import { MOST_NEAR_PER_MILLE } from '@/core/sheet/checks';
import type { Digest, Size } from '@/core/sheet/document';
import type { Rate } from '@/core/time/rate';

/** What of a film is looked at: the pictures of each level in the order they first show, and what the reel shows when. */
export type Inspection = {
  readonly size: Size;
  readonly rate: Rate;
  readonly levels: readonly (readonly Digest[])[];
  readonly stacks: readonly PictureStack[];
  readonly runs: readonly FrameRun[];
};

/** A picture as whoever has it gives it: its pixels (RGBA, straight alpha), why there are none, or null when that can't be told now. */
export type LookedUp = { readonly rgba: Uint8Array | Uint8ClampedArray } | { readonly trouble: PictureTrouble } | null;

type Known = { readonly measure: PictureMeasure; readonly blocks: BlockMeans | null };

/** How many pictures are prepared for ahead of their turn. */
const AHEAD = 16;

const FLASH_KINDS: readonly FlashKind[] = ['general', 'red'];

/**
 * Looks at the pictures of a film. Each picture, each pair and each stack is looked at once and remembered, so
 * that after an edit only what is new costs anything; what a film no longer has is forgotten.
 */
export class Inspector {
  private size: Size | null = null;
  private readonly known = new Map<Digest, Known>();
  private readonly pairs = new Map<string, Nearness | null>();
  private readonly lights = new Map<string, LightCells>();

  /** `look` gives a picture's pixels; `prepare` is told which will be asked for next, in order. */
  constructor(
    private readonly look: (digest: Digest, size: Size) => Promise<LookedUp>,
    private readonly prepare: (digests: readonly Digest[]) => void = () => undefined,
  ) {}

  /**
   * What looking at a film tells. `onProgress` is told how many pictures of all have been looked at; null is
   * given when `isStopped` says so meanwhile, and what was seen by then is remembered.
   */
  async inspect(
    { size, rate, levels, stacks, runs }: Inspection,
    onProgress: (done: number, all: number) => void = () => undefined,
    isStopped: () => boolean = () => false,
  ): Promise<PictureFacts | null> {
    if (this.size?.width !== size.width || this.size.height !== size.height) this.forgetAll();
    this.size = size;
    const wanted = [...new Set([...levels.flat(), ...stacks.flatMap((stack) => stack.layers.map((layer) => layer.picture))])];
    const fresh = wanted.filter((digest) => !this.known.has(digest));
    const troubles = new Map<Digest, PictureTrouble>();
    for (const [index, digest] of fresh.entries()) {
      if (isStopped()) return null;
      this.prepare(fresh.slice(index, index + AHEAD));
      const found = await this.look(digest, size);
      if (found && 'trouble' in found) troubles.set(digest, found.trouble);
      else if (found) this.known.set(digest, measurePicture(size, found.rgba));
      onProgress(index + 1, fresh.length);
    }
    const near = new Map<string, Nearness>();
    for (const level of levels) this.findNear(level, near);
    if (isStopped()) return null;
    const flashes = await this.findFlashes(size, rate, stacks, runs, isStopped);
    if (!flashes) return null;
    this.forgetOthers(new Set(wanted), stacks);
    const measures = new Map(
      wanted.flatMap((digest) => {
        const known = this.known.get(digest);
        return known ? [[digest, known.measure] as const] : [];
      }),
    );
    return { measures, troubles, near, flashes };
  }

  private findNear(pictures: readonly Digest[], near: Map<string, Nearness>): void {
    for (let first = 0; first < pictures.length; first++) {
      const a = this.known.get(pictures[first] as Digest);
      if (!a) continue;
      for (let second = first + 1; second < pictures.length; second++) {
        const b = this.known.get(pictures[second] as Digest);
        if (!b || !mayBeNear(a.measure, b.measure)) continue;
        const key = nearKey(pictures[first] as Digest, pictures[second] as Digest);
        let apart = this.pairs.get(key);
        if (apart === undefined) {
          const measured = nearness(a.blocks, b.blocks);
          apart = isNear(measured, MOST_NEAR_PER_MILLE) ? measured : null;
          this.pairs.set(key, apart);
        }
        if (apart) near.set(key, apart);
      }
    }
  }

  private async findFlashes(
    size: Size,
    rate: Rate,
    stacks: readonly PictureStack[],
    runs: readonly FrameRun[],
    isStopped: () => boolean,
  ): Promise<readonly Flashes[] | null> {
    const lights: LightCells[] = [];
    for (const { key, layers } of stacks) {
      let light = this.lights.get(key);
      if (!light) {
        // Lets a stop come through between stacks.
        await Promise.resolve();
        if (isStopped()) return null;
        light = lightOfStack(
          size,
          layers.map(({ picture, opacityPercent, blend }) => ({ blocks: this.known.get(picture)?.blocks ?? null, opacityPercent, blend })),
        );
        this.lights.set(key, light);
      }
      lights.push(light);
    }
    const lit = runs.map(({ stack, startFrame }): LightRun => ({ light: lights[stack] as LightCells, startFrame }));
    return FLASH_KINDS.flatMap((kind) => worstFlashes(lit, size, rate, kind) ?? []);
  }

  private forgetAll(): void {
    this.known.clear();
    this.pairs.clear();
    this.lights.clear();
  }

  private forgetOthers(pictures: ReadonlySet<Digest>, stacks: readonly PictureStack[]): void {
    const keys = new Set(stacks.map((stack) => stack.key));
    for (const key of this.lights.keys()) if (!keys.has(key)) this.lights.delete(key);
    for (const digest of this.known.keys()) if (!pictures.has(digest)) this.known.delete(digest);
    for (const key of this.pairs.keys()) if (!key.split(' ').every((digest) => pictures.has(digest))) this.pairs.delete(key);
  }
}
