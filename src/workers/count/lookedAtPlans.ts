import type { CountedOutside } from '@/core/outside/countOutside';
import { type Held, holdAsItLeft, type Plan } from '@/core/outside/holdAgainst';
import type { SeenFrames } from '@/core/outside/seenFrames';
import type { PlanOrder } from '@/workers/count/deskProtocol';
import { packedFiles } from '@/workers/count/packed';
import { planFrames, planPicture } from '@/workers/count/planFrames';
import { layAtHand } from '@/workers/render/atHand';

type LookedAt = {
  readonly plan: Plan;
  readonly order: PlanOrder;
  /** What its drawings look like without the background, once a file was held against them. */
  drawings: SeenFrames | null;
};

export type AsItLeft = { readonly held: Held; readonly plan: Plan; readonly isDrawingsAlone: boolean };

/** The plans that were looked at, by their keys. */
export class LookedAtPlans {
  private readonly plans = new Map<string, LookedAt>();

  /** Looks at every frame of a plan, so that files can be held against it. */
  async look(key: string, order: PlanOrder, onFrame: (frames: number) => void, stop: AbortSignal): Promise<void> {
    if (order.packed) layAtHand(await packedFiles(order.packed));
    const seen = await planFrames(order.plan, onFrame, stop);
    this.plans.set(key, { plan: { plan: order.held, seen, loudness: order.loudness }, order, drawings: null });
  }

  of(key: string): Plan | null {
    return this.plans.get(key)?.plan ?? null;
  }

  /**
   * Holds a file against a plan, and where that finds little against its drawings alone; those are looked at for the first such file,
   * and not if that is stopped. Null where the plan isn't there.
   */
  async hold(key: string, file: CountedOutside, onFrame: (frames: number) => void, stop: AbortSignal): Promise<AsItLeft | null> {
    const looked = this.plans.get(key);
    if (!looked) return null;
    const { drawingsAlone } = looked.order;
    const alone = async (): Promise<SeenFrames | null> => {
      if (!drawingsAlone || looked.drawings) return looked.drawings;
      try {
        looked.drawings = await planFrames(drawingsAlone, onFrame, stop);
      } catch (error) {
        if (!stop.aborted) throw error;
      }
      return looked.drawings;
    };
    return { ...(await holdAsItLeft(looked.plan, alone, file)), plan: looked.plan };
  }

  /** A frame of a plan as a picture no wider than told, or of its drawings alone; null where there is none. */
  async picture(key: string, isDrawingsAlone: boolean, frame: number, mostWidthPx: number): Promise<ImageBitmap | null> {
    const order = this.plans.get(key)?.order;
    const plan = isDrawingsAlone ? order?.drawingsAlone : order?.plan;
    return plan ? planPicture(plan, frame, mostWidthPx) : null;
  }
}
