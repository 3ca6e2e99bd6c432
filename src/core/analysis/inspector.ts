import { nearKey, type PictureFacts, type PictureTrouble } from '@/core/analysis/facts';
import { FlashFilm } from '@/core/analysis/flashFilm';
import { lightOfPicture, type PictureLight } from '@/core/analysis/light';
import { type BlockMeans, measurePicture, type PictureMeasure } from '@/core/analysis/measure';
import { isNear, mayBeNear, type Nearness, nearness } from '@/core/analysis/nearness';
import { MOST_NEAR_PER_MILLE } from '@/core/document/checks';
import type { Digest, Size } from '@/core/document/model';
import type { RenderPlan } from '@/core/render/renderPlan';

/** What of a film is checked: the pictures of each level in the order they first show, and the plan of the reel, null when nothing is on it. */
export type Inspection = {
  readonly size: Size;
  readonly levels: readonly (readonly Digest[])[];
  readonly plan: RenderPlan | null;
};

/** A picture as whoever has it gives it: its pixels (RGBA, straight alpha), why there are none, or null when that can't be told now. */
export type PictureLookup = { readonly rgba: Uint8Array | Uint8ClampedArray } | { readonly trouble: PictureTrouble } | null;

type PictureNotes = { readonly measure: PictureMeasure; readonly blocks: BlockMeans | null; readonly light: PictureLight };

function known(size: Size, rgba: Uint8Array | Uint8ClampedArray): PictureNotes {
  const measured = measurePicture(size, rgba);
  return { ...measured, light: lightOfPicture(size, rgba, measured.measure.box) };
}

/** The plan of an empty reel, as far as it is asked for. */
const NOTHING: Pick<RenderPlan, 'stacks' | 'runs' | 'rate'> = { stacks: [], runs: [], rate: { num: 1, den: 1 } };

/** How many pictures are prepared for ahead of their turn. */
const AHEAD = 16;

/**
 * Looks at the pictures of a film. Each picture and each pair is looked at once and remembered, so
 * that after an edit only what is new costs anything; what a film no longer has is forgotten.
 */
export class Inspector {
  private size: Size | null = null;
  private readonly known = new Map<Digest, PictureNotes>();
  private readonly pairs = new Map<string, Nearness | null>();
  private film: FlashFilm | null = null;

  /** `look` gives a picture's pixels; `prepare` is told which will be asked for next, in order; `rest` lets whoever wants to stop it be heard. */
  constructor(
    private readonly look: (digest: Digest, size: Size) => Promise<PictureLookup>,
    private readonly prepare: (digests: readonly Digest[]) => void = () => undefined,
    private readonly rest: () => Promise<void> = async () => undefined,
  ) {}

  /**
   * What looking at a film tells. `onProgress` is told how many pictures of all have been looked at; null is
   * given when `isStopped` says so meanwhile, and what was seen by then is remembered.
   */
  async inspect(
    { size, levels, plan }: Inspection,
    onProgress: (done: number, all: number) => void = () => undefined,
    isStopped: () => boolean = () => false,
  ): Promise<PictureFacts | null> {
    if (this.size?.width !== size.width || this.size.height !== size.height) this.forgetAll();
    this.size = size;
    const { stacks, runs, rate } = plan ?? NOTHING;
    const wanted = [...new Set([...levels.flat(), ...stacks.flatMap((stack) => stack.layers.map((layer) => layer.picture))])];
    const fresh = wanted.filter((digest) => !this.known.has(digest));
    const troubles = new Map<Digest, PictureTrouble>();
    for (const [index, digest] of fresh.entries()) {
      if (isStopped()) return null;
      this.prepare(fresh.slice(index, index + AHEAD));
      const found = await this.look(digest, size);
      if (found && 'trouble' in found) troubles.set(digest, found.trouble);
      else if (found) this.known.set(digest, known(size, found.rgba));
      onProgress(index + 1, fresh.length);
    }
    const near = new Map<string, Nearness>();
    for (const level of levels) this.findNear(level, near);
    if (isStopped()) return null;
    this.film ??= new FlashFilm(size, (digest) => this.known.get(digest)?.light ?? null);
    const flashes = await this.film.worst(stacks, runs, rate, async () => {
      await this.rest();
      return isStopped();
    });
    if (!flashes) return null;
    this.forgetOthers(new Set(wanted));
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

  private forgetAll(): void {
    this.known.clear();
    this.pairs.clear();
    this.film = null;
  }

  private forgetOthers(pictures: ReadonlySet<Digest>): void {
    this.film?.keepOnly(pictures);
    for (const digest of this.known.keys()) if (!pictures.has(digest)) this.known.delete(digest);
    for (const key of this.pairs.keys()) if (!key.split(' ').every((digest) => pictures.has(digest))) this.pairs.delete(key);
  }
}
