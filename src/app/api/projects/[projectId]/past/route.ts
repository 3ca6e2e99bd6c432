import { answering, checkBody, readIds, readJson, respond } from '@/app/api/respond';
import { momentNameSchema } from '@/contracts/past';
import { atRevisionSchema } from '@/contracts/project';
import { inverseOf, nameOfMoment, past, pastChanges } from '@/server/service/past';

type Context = RouteContext<'/api/projects/[projectId]/past'>;

/** A project's past: its sittings and named moments; its changes `?from=&to=`, both inclusive; or what undoes the change `?undoing=`. */
export const GET = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const said = new URL(request.url).searchParams;
  if (said.has('undoing')) {
    const undoing = checkBody(said.get('undoing'), atRevisionSchema);
    return undoing.ok ? respond(await inverseOf(ids.value.projectId, undoing.value)) : undoing.response;
  }
  if (!said.has('from') && !said.has('to')) return respond(await past(ids.value.projectId));
  const from = checkBody(said.get('from'), atRevisionSchema);
  if (!from.ok) return from.response;
  const to = checkBody(said.get('to'), atRevisionSchema);
  return to.ok ? respond(await pastChanges(ids.value.projectId, from.value, to.value)) : to.response;
});

/** Gives a moment a name, or takes it away. */
export const PUT = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, momentNameSchema);
  return body.ok ? respond(await nameOfMoment(ids.value.projectId, body.value)) : body.response;
});
