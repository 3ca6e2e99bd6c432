import type { HandoverKind } from '@/contracts/receipt';
import { type Project, shotById } from '@/core/document/model';
import { isEvenSize, sizeText } from '@/core/document/size';
import { type Outcome, refused } from '@/core/outcome';
import { fileNamePart } from '@/core/output/sequenceNames';
import { framesOfReel } from '@/core/reel/reel';
import type { RenderPlan } from '@/core/render/renderPlan';
import { renderPlanOf } from '@/core/render/renderPlan';
import { rateName } from '@/core/time/rate';

/** What is asked of a handover, in the words of the screen. Frame numbers are as typed, from the project's first. */
export type Recipe = {
  readonly shotId: string | null;
  readonly fromText: string;
  readonly toText: string;
  readonly withBackground: boolean;
  readonly kind: HandoverKind;
};

/** How many frames the recipe can choose from. */
export const framesToChoose = (project: Project, shotId: string | null): number =>
  shotId === null ? framesOfReel(project) : (shotById(project, shotId)?.frames ?? 0);

export const START_RECIPE: Recipe = { shotId: null, fromText: '', toText: '', withBackground: true, kind: 'mp4' };

const isFilm = (kind: HandoverKind) => kind === 'mp4' || kind === 'webm';

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

/** What leaves by this recipe, or why nothing can. */
export function planOf(project: Project, recipe: Recipe): Outcome<RenderPlan> {
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  if (Number.isNaN(fromFrame)) return refused(`“${recipe.fromText}” is no frame number.`);
  if (Number.isNaN(toFrame)) return refused(`“${recipe.toText}” is no frame number.`);
  if (isFilm(recipe.kind) && !isEvenSize(project.size)) {
    return refused(`Films need an even width and height, and this project is ${sizeText(project.size)}: hand over pictures instead.`);
  }
  return renderPlanOf(project, { shotId: recipe.shotId, fromFrame, toFrame, withBackground: recipe.withBackground });
}

/** The name files get: project, shot if only one leaves, the frames if not all leave, and for films the rate. */
export function baseNameOf(project: Project, recipe: Recipe): string {
  const shot = recipe.shotId === null ? 'reel' : fileNamePart(shotById(project, recipe.shotId)?.code ?? '');
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  const range = isWhole(project, recipe) ? '' : `_${fromFrame + project.firstFrameNumber}-${toFrame + project.firstFrameNumber}`;
  const name = `${fileNamePart(project.title)}_${shot}${range}`;
  return isFilm(recipe.kind) ? `${name}_${fileNamePart(rateName(project.rate))}` : name;
}
