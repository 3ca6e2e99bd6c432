import { type LightCells, paperLight } from '@/core/analysis/layLight';
import type { CellGrid } from '@/core/analysis/light';

/** The light of a film from one of its frames on. */
export type LitFrame = { readonly light: LightCells; frame: number };

/** The light of a film within the last second, and just before it: frames on which it changed, oldest first. */
export class LightHistory {
  private readonly lit: LitFrame[] = [];
  private readonly spare: LitFrame[] = [];

  constructor(
    private readonly grid: CellGrid,
    private readonly framesPerSecond: number,
  ) {}

  /** Forgets all light, to begin another walk in the same room: its first frame holds what was there, and is to be laid whole. */
  clear(): void {
    this.spare.push(...this.lit.splice(0));
  }

  /**
   * Light from `frame` on, to be changed by whoever asked; it is what it was before until then. What has fallen out
   * of the last second is overwritten, but for the light that stood when the second began.
   */
  next(frame: number): LightCells {
    while (this.lit.length > 1 && frame - (this.lit[1] as LitFrame).frame > this.framesPerSecond)
      this.spare.push(this.lit.shift() as LitFrame);
    const before = this.lit.at(-1);
    const next = this.spare.pop() ?? { light: paperLight(this.grid), frame };
    next.frame = frame;
    if (before) {
      for (const channel of ['red', 'green', 'blue', 'luminance'] as const) next.light[channel].set(before.light[channel]);
    }
    this.lit.push(next);
    return next.light;
  }

  /** The lights of the second that ends with the newest, oldest first; before them stands the one that was there when it began. */
  get states(): readonly LitFrame[] {
    return this.lit;
  }
}
