import type { Digest } from '@/core/document/model';
import { isClipPicture } from '@/core/render/clipPicture';
import type { RenderPlan } from '@/core/render/renderPlan';
import { type PictureStack, pictureAlone, stackOf } from '@/core/render/stacks';
import type { Ground } from '@/workers/render/compositor';
import { Compositor } from '@/workers/render/compositor';
import { decodedPicture, PictureCache } from '@/workers/render/pictureCache';
import { fetchAhead, loadPicturePng } from '@/workers/render/pictureSource';
import { RenderedPicture } from '@/workers/render/renderedPicture';
import { ScaledCanvas } from '@/workers/render/scaledCanvas';
import type { StoredPng } from '@/workers/render/storedPng';

/** Room for decoded pictures, used and prepared. */
const MOST_PICTURE_BYTES = 40 * 1024 * 1024;

const EMPTY: PictureStack = stackOf([], true);

/** How many runs ahead the files of their pictures are fetched. */
const RUNS_FETCHED = 48;

/**
 * Something made once from each distinct stack of a plan and used in every run that shows it. What a
 * later run still needs is kept, as long as it fits `mostBytes`; past that the longest unneeded is let
 * go and made again, since memory must stay bounded.
 */
export class StackPictures<Made> {
  readonly compositor: Compositor;
  private readonly scaled: ScaledCanvas | null;
  private readonly kept = new Map<number, Made>();
  private readonly lastRun: Uint32Array;
  private keptBytes = 0;
  private readonly runsAhead: number;
  private preparedUntil = 0;
  private fetchedUntil = 0;
  /** Pictures whose files were fetched ahead once; one that is needed again much later is fetched then. */
  private readonly fetched = new Set<Digest>();
  /** How many were made of a stored picture alone, without a canvas. */
  private taken = 0;

  constructor(
    private readonly plan: RenderPlan,
    private readonly ground: Ground,
    private readonly make: (picture: RenderedPicture) => Promise<Made>,
    private readonly bytesOf: (made: Made) => number,
    /** Is shown each stack as it is rendered, after something was made from it. */
    private readonly onRendered: (stack: number, picture: RenderedPicture) => Promise<void> = async () => undefined,
    /** Makes it of a stored picture that is all of a stack, where that can be had without a canvas. */
    private readonly makeOfStored?: (png: StoredPng, stack: number) => Made | Promise<Made>,
    private readonly mostBytes = 48 * 1024 * 1024,
  ) {
    const composed = plan.composedSize ?? plan.size;
    this.compositor = new Compositor(composed, new PictureCache(decodedPicture, MOST_PICTURE_BYTES), 1, plan.finish);
    this.scaled = plan.composedSize ? new ScaledCanvas(plan.size) : null;
    const pictureBytes = composed.width * composed.height * 4;
    const deepest = Math.max(1, ...plan.stacks.map((stack) => stack.layers.length));
    this.runsAhead = Math.max(1, Math.floor(MOST_PICTURE_BYTES / 2 / pictureBytes / deepest));
    this.lastRun = new Uint32Array(plan.stacks.length);
    plan.runs.forEach((run, index) => {
      this.lastRun[run.stack] = index;
    });
  }

  /** What was made for the stack of run number `runIndex`; runs are asked for in order. */
  async ofRun(runIndex: number): Promise<Made> {
    const stack = this.plan.runs[runIndex]?.stack ?? 0;
    this.fetchAhead(runIndex);
    this.prepareAhead(runIndex);
    const known = this.kept.get(stack);
    const made = known ?? (await this.compose(stack));
    if (this.lastRun[stack] === runIndex) this.letGo(stack);
    else if (!known) this.keep(stack, made);
    return made;
  }

  /** Has the files of pictures fetched that are decoded soon: they are small, and waiting for the server is slow. */
  private fetchAhead(runIndex: number): void {
    if (this.fetchedUntil - runIndex > RUNS_FETCHED / 2) return;
    const until = Math.min(this.plan.runs.length, runIndex + RUNS_FETCHED);
    for (let index = Math.max(this.fetchedUntil, runIndex); index < until; index++) {
      const { layers = [] } = this.plan.stacks[this.plan.runs[index]?.stack ?? 0] ?? {};
      fetchAhead(layers.flatMap(({ picture }) => (this.fetched.has(picture) || isClipPicture(picture) ? [] : picture)));
      for (const layer of layers) this.fetched.add(layer.picture);
    }
    this.fetchedUntil = until;
  }

  /**
   * Has the pictures of coming runs decoded: as many as fit half the room, and only when half
   * of those are used up.
   */
  private prepareAhead(runIndex: number): void {
    if (this.preparedUntil - runIndex > this.runsAhead / 2) return;
    const until = Math.min(this.plan.runs.length, runIndex + 1 + this.runsAhead);
    for (let index = Math.max(this.preparedUntil, runIndex); index < until; index++) {
      const next = this.plan.runs[index]?.stack ?? 0;
      if (!this.kept.has(next) && this.storedAlone(next) === null) this.compositor.prepare(this.plan.stacks[next]?.layers ?? []);
    }
    this.preparedUntil = until;
  }

  /** Whether what was made for a run is still needed, so that it must not be written over. */
  keeps(runIndex: number): boolean {
    return this.kept.has(this.plan.runs[runIndex]?.stack ?? -1);
  }

  /** How many distinct stacks something was made from. */
  get rendered(): number {
    return this.compositor.composited + this.taken;
  }

  /** The stored picture that is all of a stack and leaves as it is; null where a canvas has to be drawn on. */
  private storedAlone(stack: number): Digest | null {
    const { plan, ground } = this;
    if (!this.makeOfStored || ground === 'paper' || plan.composedSize) return null;
    const alone = pictureAlone(plan.stacks[stack] ?? EMPTY, plan.finish.length > 0);
    return alone === null || isClipPicture(alone) ? null : alone;
  }

  private async compose(stack: number): Promise<Made> {
    const alone = this.storedAlone(stack);
    if (alone !== null && this.makeOfStored) {
      const made = await this.makeOfStored(await loadPicturePng(alone), stack);
      this.taken++;
      return made;
    }
    const canvas = await this.compositor.lay(this.plan.stacks[stack] ?? EMPTY, this.ground);
    const { scaled } = this;
    const picture = scaled
      ? new RenderedPicture(scaled.draw(canvas), this.plan.size, this.ground, scaled)
      : new RenderedPicture(canvas, this.plan.size, this.ground, this.compositor);
    const made = await this.make(picture);
    await this.onRendered(stack, picture);
    return made;
  }

  private keep(stack: number, made: Made): void {
    this.kept.set(stack, made);
    this.keptBytes += this.bytesOf(made);
    for (const oldest of this.kept.keys()) {
      if (this.keptBytes <= this.mostBytes) break;
      this.letGo(oldest);
    }
  }

  private letGo(stack: number): void {
    const made = this.kept.get(stack);
    if (made === undefined) return;
    this.kept.delete(stack);
    this.keptBytes -= this.bytesOf(made);
  }
}
