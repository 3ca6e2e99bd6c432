import { type Project, shotById } from '@/core/document/model';
import { sampleOfFrame } from '@/core/document/sound';
import { done, type Outcome, refused } from '@/core/outcome';
import { startFilmOptions } from '@/core/output/film';
import { type FileNames, type Format, type FormatOptions, fileNamesOf } from '@/core/output/format';
import { type Leaving, leavingOf } from '@/core/output/leaving';
import type { NamedFrom } from '@/core/output/names';
import { fileNamePart } from '@/core/output/sequenceNames';
import { isDraft, leavingRate, type Taking, WHOLE_TAKING } from '@/core/output/taking';
import { MIX_RATE } from '@/core/reel/mix';
import { framesOfReel } from '@/core/reel/reel';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { SoundPlan } from '@/core/render/soundPlan';
import { rateName } from '@/core/time/rate';

/** What is asked of a handover, in the words of the screen. Frame numbers are as typed, from the project's first. */
export type Recipe = {
  readonly shotId: string | null;
  /** The one level of the shot that leaves; null for all that is seen. */
  readonly levelId: string | null;
  readonly fromText: string;
  readonly toText: string;
  readonly withBackground: boolean;
  readonly formatId: string;
  readonly options: FormatOptions;
  readonly taking: Taking;
};

/** What an earlier handover was asked for, as its receipt tells it. */
export type AskedBefore = Pick<Recipe, 'shotId' | 'levelId' | 'withBackground' | 'formatId'> & {
  readonly whole: boolean;
  readonly range: { readonly fromFrame: number; readonly toFrame: number } | null;
  readonly options: FormatOptions | null;
  readonly taking: Taking | null;
};

/** Whether a project has the shot and the level that are asked for. */
export function isThere(project: Project, { shotId, levelId }: Pick<Recipe, 'shotId' | 'levelId'>): boolean {
  const shot = shotId === null ? undefined : shotById(project, shotId);
  return (shotId === null || shot !== undefined) && (levelId === null || (shot?.levels.some(({ id }) => id === levelId) ?? false));
}

/** A recipe that asks for what was asked for before; what earlier receipts don't tell is as its format starts with. Null where that format, the shot or the level is no longer there. */
export function recipeOf(project: Project, asked: AskedBefore, format: Format | undefined): Recipe | null {
  if (!format || !isThere(project, asked)) return null;
  const text = (frame: number | undefined) => (asked.whole || frame === undefined ? '' : String(frame + project.firstFrameNumber));
  return {
    shotId: asked.shotId,
    levelId: asked.levelId,
    fromText: text(asked.range?.fromFrame),
    toText: text(asked.range?.toFrame),
    withBackground: asked.withBackground,
    formatId: format.id,
    options: asked.options ?? format.start,
    taking: asked.taking ?? WHOLE_TAKING,
  };
}

/** How many frames the recipe can choose from. */
export const framesToChoose = (project: Project, shotId: string | null): number =>
  shotId === null ? framesOfReel(project) : (shotById(project, shotId)?.frames ?? 0);

export const START_RECIPE: Recipe = {
  shotId: null,
  levelId: null,
  fromText: '',
  toText: '',
  withBackground: true,
  formatId: 'mp4',
  options: startFilmOptions('mp4'),
  taking: WHOLE_TAKING,
};

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

/** What leaves, with the names of its files. */
export type NamedLeaving = Leaving & { readonly names: FileNames };

/** What names of files have in common; `today` as `2026-11-26`. */
export const namedFrom = (project: Project, today: string): NamedFrom => ({
  project: project.title,
  rate: rateName(project.rate),
  date: today,
});

/** What leaves by this recipe in its format, on a day, or why nothing can. */
export function planOf(project: Project, recipe: Recipe, format: RefusingFormat, today: string): Outcome<NamedLeaving> {
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  if (Number.isNaN(fromFrame)) return refused(`“${recipe.fromText}” is not a frame number.`);
  if (Number.isNaN(toFrame)) return refused(`“${recipe.toText}” is not a frame number.`);
  const { shotId, levelId, withBackground, options } = recipe;
  const leaving = leavingOf(project, { shotId, levelId, fromFrame, toFrame, withBackground }, options, recipe.taking);
  if (!leaving.ok) return leaving;
  const refusal = format.refuse(leaving.value.plan);
  if (!refusal.ok) return refusal;
  const names = fileNamesOf(format, options, baseNameOf(project, recipe, format), leaving.value.named, namedFrom(project, today));
  return names.ok ? done({ ...leaving.value, names: names.value }) : names;
}

/** The sound a film is written with, as long as its frames; null where none is asked for or none is heard. */
export function soundAsked({ options }: Recipe, { plan, heard }: Leaving): SoundPlan | null {
  if (options.kind !== 'film' || options.sound === null || heard === null) return null;
  return {
    codec: options.sound === 'pcm' ? 'pcm-s24' : options.sound,
    sampleRate: MIX_RATE,
    channels: 2,
    samples: sampleOfFrame(plan.frames, plan.rate, MIX_RATE),
  };
}

/** The name files get: project, shot if only one leaves, the frames if not all leave, and the rate where the format has one. */
export function baseNameOf(project: Project, recipe: Recipe, { carries }: Format): string {
  const shot = recipe.shotId === null ? undefined : shotById(project, recipe.shotId);
  const level = shot?.levels.find(({ id }) => id === recipe.levelId);
  const of = recipe.shotId === null ? 'reel' : `${fileNamePart(shot?.code ?? '')}${level ? `_${fileNamePart(level.name)}` : ''}`;
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  const range = isWhole(project, recipe) ? '' : `_${fromFrame + project.firstFrameNumber}-${toFrame + project.firstFrameNumber}`;
  const draft = isDraft(recipe.taking) ? '_draft' : '';
  const name = `${fileNamePart(project.title)}_${of}${range}`;
  const rate = leavingRate(project.rate, recipe.taking);
  return carries.rates !== 'none' ? `${name}_${fileNamePart(rateName(rate))}${draft}` : `${name}${draft}`;
}
