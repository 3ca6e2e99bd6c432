import { answering, readIds, readJson, respond } from '@/app/api/respond';
import { newSourcesSchema } from '@/contracts/bringIn';
import { noteSources, sourcesOf } from '@/server/service/bringIn/sources';

export const dynamic = 'force-dynamic';

type Context = RouteContext<'/api/projects/[projectId]/sources'>;

/** Files a project's pictures came from. */
export const GET = answering(async (_request: Request, { params }: Context) => {
  const ids = await readIds(params);
  return ids.ok ? respond(await sourcesOf(ids.value.projectId)) : ids.response;
});

/** Notes which files a level's pictures came from. */
export const POST = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, newSourcesSchema);
  return body.ok ? respond(await noteSources(ids.value.projectId, body.value.sources)) : body.response;
});
