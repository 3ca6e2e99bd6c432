import { answering, checkBody, readIds, respond } from '@/app/api/respond';
import { atRevisionSchema } from '@/contracts/project';
import { duplicate } from '@/server/service/keep';

/** Makes another project of what one is now, or was at the revision `?at=`. */
export const POST = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/duplicate'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const said = new URL(request.url).searchParams.get('at');
  if (said === null) return respond(await duplicate(ids.value.projectId), 201);
  const at = checkBody(said, atRevisionSchema);
  return at.ok ? respond(await duplicate(ids.value.projectId, at.value), 201) : at.response;
});
