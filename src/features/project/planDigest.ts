import { planText, type RenderPlan } from '@/core/render/renderPlan';
import { laterModule } from '@/ui/later';

/** The hasher, which no stage needs before it can be used. */
const hasher = laterModule(() => import('@/core/raster/digest'));

/** A plan's digest, as receipts keep it; null where the hasher can't be loaded. */
export async function digestOfPlan(plan: RenderPlan): Promise<string | null> {
  try {
    return await (await hasher()).digestOfBytes(planText(plan));
  } catch {
    return null;
  }
}
