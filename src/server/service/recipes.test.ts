import { describe, expect, it } from 'vitest';
import { recipeSchema } from '@/contracts/queue';
import { MOST_RECIPES } from '@/contracts/recipes';
import { START_RECIPE } from '@/core/output/recipe';
import { createProject } from '@/server/service/projects';
import { changeRecipe, savedRecipes } from '@/server/service/recipes';
import { getDatabase } from '@/server/store/database';
import { saveSetting } from '@/server/store/settings';

const recipe = recipeSchema.parse(START_RECIPE);
const made = () =>
  createProject({ title: 'Recipes', rate: { num: 24, den: 1 }, size: { width: 64, height: 36 }, frames: 4, firstFrameNumber: 1 });

describe('saved recipes', () => {
  it('are those of their project and those for all, one under a name', async () => {
    const [one, other] = [await made(), await made()];
    await changeRecipe({ projectId: one.id, name: 'Editor', recipe });
    await changeRecipe({ projectId: one.id, name: 'Editor', recipe: { ...recipe, withBackground: false } });
    await changeRecipe({ projectId: null, name: 'Web', recipe });
    expect(await savedRecipes(one.id)).toMatchObject({
      ok: true,
      value: { project: [{ name: 'Editor', recipe: { withBackground: false } }], all: [{ name: 'Web', recipe }] },
    });
    expect(await savedRecipes(other.id)).toMatchObject({ ok: true, value: { project: [], all: [{ name: 'Web' }] } });
    await changeRecipe({ projectId: one.id, name: 'Editor', recipe: null });
    await changeRecipe({ projectId: null, name: 'Web', recipe: null });
    expect(await savedRecipes(one.id)).toMatchObject({ ok: true, value: { project: [], all: [] } });
    expect(await savedRecipes('none')).toMatchObject({ ok: false, status: 404 });
    expect(await changeRecipe({ projectId: 'none', name: 'x', recipe })).toMatchObject({ ok: false, status: 404 });
  });

  it('saved at once by two are both there', async () => {
    const { id } = await made();
    await Promise.all(Array.from({ length: 8 }, (_, index) => changeRecipe({ projectId: id, name: `r${index}`, recipe })));
    const saved = await savedRecipes(id);
    expect(saved.ok && saved.value.project.map(({ name }) => name).toSorted()).toEqual(
      Array.from({ length: 8 }, (_, index) => `r${index}`),
    );
  });

  it('of a newer version are left as they are, and too many are refused', async () => {
    const { id } = await made();
    await saveSetting(await getDatabase(), `recipes ${id}`, 99, { recipes: 'of another kind' });
    expect(await savedRecipes(id)).toMatchObject({ ok: false, status: 422, error: expect.stringContaining('newer Lime Tick') });
    expect(await changeRecipe({ projectId: id, name: 'x', recipe })).toMatchObject({ ok: false, status: 422 });
    const { id: full } = await made();
    const recipes = Array.from({ length: MOST_RECIPES }, (_, index) => ({ name: `r${index}`, recipe }));
    await saveSetting(await getDatabase(), `recipes ${full}`, 1, { recipes });
    expect(await changeRecipe({ projectId: full, name: 'one more', recipe })).toMatchObject({ ok: false, status: 422 });
    expect(await changeRecipe({ projectId: full, name: 'r0', recipe })).toMatchObject({ ok: true });
  });
});
