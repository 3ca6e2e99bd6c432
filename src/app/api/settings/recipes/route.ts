import { answering, checkBody, readJson, respond } from '@/app/api/respond';
import { idSchema } from '@/contracts/document';
import { recipeChangeSchema } from '@/contracts/recipes';
import { changeRecipe, savedRecipes } from '@/server/service/recipes';

export const dynamic = 'force-dynamic';

/** The recipes saved with `?project=` and for all. */
export const GET = answering(async (request: Request) => {
  const project = checkBody(new URL(request.url).searchParams.get('project'), idSchema);
  return project.ok ? respond(await savedRecipes(project.value)) : project.response;
});

/** Saves a recipe under a name, or takes it away. */
export const PUT = answering(async (request: Request) => {
  const body = await readJson(request, recipeChangeSchema);
  return body.ok ? respond(await changeRecipe(body.value)) : body.response;
});
