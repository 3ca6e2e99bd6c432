import { create } from 'zustand';
import { formatOf } from '@/core/output/format';
import { type Recipe, START_RECIPE } from '@/core/output/recipe';
import { FORMATS } from '@/workers/client';

type HandoverState = {
  readonly recipe: Recipe;
  /** What went wrong besides a job: that of a receipt which could not be kept. */
  readonly trouble: string | null;
  /** Files written in this visit, by receipt, that can be saved again. */
  readonly files: ReadonlyMap<string, { readonly storedAs: string; readonly fileName: string }>;
};

/** The format of a recipe. Throws when there is none of its id. */
export function formatFor(recipe: Recipe): (typeof FORMATS)[number] {
  const format = formatOf(FORMATS, recipe.formatId);
  if (!format) throw new Error(`There is no format ${recipe.formatId}.`);
  return format;
}

/** What is asked for and what was written, which outlives the screen. */
export const useHandoverStore = create<HandoverState>(() => ({ recipe: START_RECIPE, trouble: null, files: new Map() }));
