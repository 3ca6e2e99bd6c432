import { answering, readIds, readJson } from '@/app/api/respond';
import { presenceSchema } from '@/contracts/people';
import { sayHere } from '@/server/service/notices';

/** A window says where it is, or that it leaves. */
export const POST = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/people'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, presenceSchema);
  if (!body.ok) return body.response;
  await sayHere(ids.value.projectId, body.value);
  return Response.json({ heard: true });
});
