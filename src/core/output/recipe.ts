import { type Project, shotById } from '@/core/document/model';
import { type Outcome, refused } from '@/core/outcome';
import type { Format } from '@/core/output/format';
import { fileNamePart } from '@/core/output/sequenceNames';
import { framesOfReel } from '@/core/reel/reel';
import { type RenderPlan, renderPlanOf } from '@/core/render/renderPlan';
import { rateName } from '@/core/time/rate';

/** What is asked of a handover, in the words of the screen. Frame numbers are as typed, from the project's first. */
export type Recipe = {
  readonly shotId: string | null;
  readonly fromText: string;
  readonly toText: string;
  readonly withBackground: boolean;
  readonly formatId: string;
};

/** How many frames the recipe can choose from. */
export const framesToChoose = (project: Project, shotId: string | null): number =>
  shotId === null ? framesOfReel(project) : (shotById(project, shotId)?.frames ?? 0);

export const START_RECIPE: Recipe = { shotId: null, fromText: '', toText: '', withBackground: true, formatId: 'mp4' };

/** The first and last frame chosen, from 0; empty texts mean the first and the last there is. */
export function chosenRange(project: Project, recipe: Recipe): { fromFrame: number; toFrame: number } {
  const read = (text: string, otherwise: number) =>
    text.trim() === '' ? otherwise : /^\d+$/.test(text.trim()) ? Number(text) - project.firstFrameNumber : Number.NaN;
  return { fromFrame: read(recipe.fromText, 0), toFrame: read(recipe.toText, framesToChoose(project, recipe.shotId) - 1) };
}

/** Whether all frames there are leave. */
export function isWhole(project: Project, recipe: Recipe): boolean {
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  return fromFrame === 0 && toFrame === framesToChoose(project, recipe.shotId) - 1;
}

/** A format with what it refuses before anything is written. */
export type RefusingFormat = Format & { readonly refuse: (plan: RenderPlan) => Outcome<null> };

/** What leaves by this recipe in its format, or why nothing can. */
export function planOf(project: Project, recipe: Recipe, format: RefusingFormat): Outcome<RenderPlan> {
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  if (Number.isNaN(fromFrame)) return refused(`“${recipe.fromText}” is not a frame number.`);
  if (Number.isNaN(toFrame)) return refused(`“${recipe.toText}” is not a frame number.`);
  const plan = renderPlanOf(project, { shotId: recipe.shotId, fromFrame, toFrame, withBackground: recipe.withBackground });
  if (!plan.ok) return plan;
  const refusal = format.refuse(plan.value);
  return refusal.ok ? plan : refusal;
}

/** The name files get: project, shot if only one leaves, the frames if not all leave, and the rate where the format has one. */
export function baseNameOf(project: Project, recipe: Recipe, { carries }: Format): string {
  const shot = recipe.shotId === null ? 'reel' : fileNamePart(shotById(project, recipe.shotId)?.code ?? '');
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  const range = isWhole(project, recipe) ? '' : `_${fromFrame + project.firstFrameNumber}-${toFrame + project.firstFrameNumber}`;
  const name = `${fileNamePart(project.title)}_${shot}${range}`;
  return carries.rates !== 'none' ? `${name}_${fileNamePart(rateName(project.rate))}` : name;
}
