import { z } from 'zod';
import { recipeSchema } from '@/contracts/queue';
import { readerOf } from '@/contracts/versions';

export const MOST_RECIPES = 200;
const nameSchema = z.string().trim().min(1, 'A recipe has a name.').max(80, 'The name of a recipe has at most 80 characters.');

/** A recipe under the name it was saved by. */
const savedRecipeSchema = z.object({ name: nameSchema, recipe: recipeSchema });
export type SavedRecipe = z.infer<typeof savedRecipeSchema>;

/** Saved recipes as they are stored. */
export const storedRecipesReader = readerOf(
  'The saved recipes',
  z.object({ version: z.number(), recipes: z.array(savedRecipeSchema).max(MOST_RECIPES) }),
);

/** Recipes saved with a project, and those for all of them. */
export const savedRecipesSchema = z.object({ project: z.array(savedRecipeSchema), all: z.array(savedRecipeSchema) });
export type SavedRecipes = z.infer<typeof savedRecipesSchema>;

/** A recipe to be saved under a name, with a project or for all (null); with none (null), what has that name is taken away. */
export const recipeChangeSchema = z.object({
  projectId: z.string().min(1).max(200).nullable(),
  name: nameSchema,
  recipe: recipeSchema.nullable(),
});
export type RecipeChange = z.infer<typeof recipeChangeSchema>;

/** A recipe as a file, which another project takes. What it says of a shot is left out: there are other shots there. */
export const recipeFileReader = readerOf(
  'The recipe',
  z.object({ file: z.literal('lime-tick-recipe'), version: z.number(), name: nameSchema, recipe: recipeSchema }),
);
