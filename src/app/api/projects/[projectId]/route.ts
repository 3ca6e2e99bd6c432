import { answering, checkBody, readIds, readJson, respond } from '@/app/api/respond';
import { deletionSchema, shelfChangeSchema } from '@/contracts/keep';
import { atRevisionSchema } from '@/contracts/project';
import { changeOnShelf, deleteForGood } from '@/server/service/keep';
import { documentAtRevision } from '@/server/service/past';
import { openProject } from '@/server/service/projects';

type Context = RouteContext<'/api/projects/[projectId]'>;

/** A project as it is; with `?at=` its document as it was at a revision. */
export const GET = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const at = new URL(request.url).searchParams.get('at');
  if (at === null) return respond(await openProject(ids.value.projectId));
  const revision = checkBody(at, atRevisionSchema);
  return revision.ok ? respond(await documentAtRevision(ids.value.projectId, revision.value)) : revision.response;
});

/** Renames a project, puts it away from the shelf, or back. */
export const PATCH = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, shelfChangeSchema);
  return body.ok ? respond(await changeOnShelf(ids.value.projectId, body.value)) : body.response;
});

/** Deletes a project for good, by its id and the title it was seen under. */
export const DELETE = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, deletionSchema);
  return body.ok ? respond(await deleteForGood(ids.value.projectId, body.value.title)) : body.response;
});
