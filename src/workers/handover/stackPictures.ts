import type { FramePlan } from '@/core/handover/framePlan';
import type { Ground } from '@/workers/compositor';
import { Compositor } from '@/workers/compositor';

/** How many runs ahead pictures are fetched and decoded. */
const PREPARED_RUNS = 12;

/**
 * Something made once from each distinct stack of a plan and used in every run that shows it. What a
 * later run still needs is kept, as long as it fits `mostBytes`; past that the longest unneeded is let
 * go and made again, since memory must stay bounded.
 */
export class StackPictures<Made> {
  readonly compositor: Compositor;
  private readonly kept = new Map<number, Made>();
  private readonly lastRun: Uint32Array;
  private keptBytes = 0;

  constructor(
    private readonly plan: FramePlan,
    private readonly ground: Ground,
    /** Makes it from the canvas a stack lies on until the next is laid. */
    private readonly make: (canvas: OffscreenCanvas, stack: number, compositor: Compositor) => Promise<Made>,
    private readonly bytesOf: (made: Made) => number,
    private readonly mostBytes = 160 * 1024 * 1024,
  ) {
    this.compositor = new Compositor(plan.size, 96 * 1024 * 1024);
    this.lastRun = new Uint32Array(plan.stacks.length);
    plan.runs.forEach((run, index) => {
      this.lastRun[run.stack] = index;
    });
  }

  /** What was made for the stack of run number `runIndex`; runs are asked for in order. */
  async ofRun(runIndex: number): Promise<Made> {
    const stack = this.plan.runs[runIndex]?.stack ?? 0;
    for (const next of this.plan.runs.slice(runIndex + 1, runIndex + 1 + PREPARED_RUNS)) {
      if (!this.kept.has(next.stack)) this.compositor.prepare(this.plan.stacks[next.stack]?.layers ?? []);
    }
    const known = this.kept.get(stack);
    const made = known ?? (await this.compose(stack));
    if (this.lastRun[stack] === runIndex) this.letGo(stack);
    else if (!known) this.keep(stack, made);
    return made;
  }

  private async compose(stack: number): Promise<Made> {
    const canvas = await this.compositor.lay(this.plan.stacks[stack]?.layers ?? [], this.ground);
    return this.make(canvas, stack, this.compositor);
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
