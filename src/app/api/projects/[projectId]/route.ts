import { answering, checkBody, readIds, respond } from '@/app/api/respond';
import { atRevisionSchema } from '@/contracts/project';
import { openProject } from '@/server/service/projects';
import { documentAtRevision } from '@/server/service/steps';

/** A project as it is; with `?at=` its document as it was at a revision. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const at = new URL(request.url).searchParams.get('at');
  if (at === null) return respond(await openProject(ids.value.projectId));
  const revision = checkBody(at, atRevisionSchema);
  return revision.ok ? respond(await documentAtRevision(ids.value.projectId, revision.value)) : revision.response;
});
