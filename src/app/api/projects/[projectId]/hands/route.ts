import { answering, readIds, readJson, respond } from '@/app/api/respond';
import { handChangeSchema } from '@/contracts/people';
import { changeHand } from '@/server/service/hands';

/** Takes a shot in hand, or gives it back. */
export const PUT = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/hands'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, handChangeSchema);
  return body.ok ? respond(await changeHand(ids.value.projectId, body.value)) : body.response;
});
