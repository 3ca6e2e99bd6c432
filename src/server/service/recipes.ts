import { MOST_RECIPES, type RecipeChange, type SavedRecipe, type SavedRecipes, storedRecipesReader } from '@/contracts/recipes';
import type { Outcome } from '@/core/outcome';
import { done } from '@/core/outcome';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { type DatabaseOrTransaction, getDatabase } from '@/server/store/database';
import { loadSetting, saveSetting } from '@/server/store/settings';
import { projectExists } from '@/server/store/shelf';

/** Those of a project are kept beside those for all (null). */
const settingOf = (projectId: string | null): string => (projectId === null ? 'recipes' : `recipes ${projectId}`);

async function load(database: DatabaseOrTransaction, projectId: string | null): Promise<Outcome<readonly SavedRecipe[]>> {
  const stored = await loadSetting(database, settingOf(projectId));
  if (!stored) return done([]);
  const read = storedRecipesReader.read({ ...stored.value, version: stored.version });
  return read.ok ? done(read.value.recipes) : read;
}

/** Recipes saved with a project, and for all; refused when a newer version saved them in a form this one can't read. */
export async function savedRecipes(projectId: string): Promise<Answer<SavedRecipes>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  const [project, all] = [await load(database, projectId), await load(database, null)];
  if (!project.ok) return unprocessable(project.reason);
  return all.ok ? answered({ project: [...project.value], all: [...all.value] }) : unprocessable(all.reason);
}

/** Saves a recipe under its name, in the place of one that has it, or takes it away; what can't be read is left as it is. */
export async function changeRecipe({ projectId, name, recipe }: RecipeChange): Promise<Answer<{ saved: number }>> {
  const database = await getDatabase();
  if (projectId !== null && !(await projectExists(database, projectId))) return noSuchProject(projectId);
  return database.transaction(async (tx) => {
    const before = await load(tx, projectId);
    if (!before.ok) return unprocessable(before.reason);
    const others = before.value.filter((each) => each.name !== name);
    const recipes = recipe ? [...others, { name, recipe }] : others;
    if (recipes.length > MOST_RECIPES) return unprocessable(`There are ${MOST_RECIPES} recipes, which is the most: take one away first.`);
    await saveSetting(tx, settingOf(projectId), storedRecipesReader.version, { recipes });
    return answered({ saved: recipes.length });
  });
}
