import { planRateChange } from '@/core/conform/conform';
import { conformedFrame } from '@/core/conform/rounding';
import type { Project } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome } from '@/core/outcome';
import type { Taking } from '@/core/output/taking';
import { placedItems } from '@/core/reel/reel';
import type { RenderRequest } from '@/core/render/renderPlan';
import { sameRate } from '@/core/time/rate';

/** A project and what is asked of it, its exposures brought to the rate that is taken; as they are where they aren't to be. Refuses what a change of rate refuses. */
export function convertedFor(
  project: Project,
  request: RenderRequest,
  { rate }: Taking,
): Outcome<{ readonly project: Project; readonly request: RenderRequest }> {
  if (rate?.way !== 'converted' || sameRate(rate.rate, project.rate)) return done({ project, request });
  const planned = planRateChange(project, placedItems(project), {
    scope: { kind: 'project', to: rate.rate },
    way: 'keepTime',
    vanishing: 'leaveOut',
  });
  if (!planned.edit.ok) return planned.edit;
  const converted = applyStep(project, planned.edit.value.step);
  if (!converted.ok) return converted;
  const at = (frame: number) => conformedFrame(frame, project.rate, rate.rate);
  const fromFrame = at(request.fromFrame);
  return done({ project: converted.value, request: { ...request, fromFrame, toFrame: Math.max(fromFrame, at(request.toFrame + 1) - 1) } });
}
