import type { Project, ShotId } from '@/core/document/model';
import { placedIn, type RenderPlan, renderPlanOf } from '@/core/render/renderPlan';
import { leaves } from '@/core/render/stacks';

/** The drawings of the whole reel, or of one shot, without the background they lie on; null where they lie on none. */
export function drawingsAlone(project: Project, shotId: ShotId | null): RenderPlan | null {
  const placed = placedIn(project, shotId);
  const hasBackground = placed.some(({ shot }) => shot?.levels.some((level) => leaves(level, true) && !leaves(level, false)));
  const frames = placed.at(-1)?.endFrame ?? 0;
  if (!hasBackground || frames === 0) return null;
  const plan = renderPlanOf(project, { shotId, fromFrame: 0, toFrame: frames - 1, withBackground: false });
  return plan.ok ? plan.value : null;
}
