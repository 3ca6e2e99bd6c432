import { outgoingResponse } from '@/app/api/outgoing';
import { answering, readIds } from '@/app/api/respond';
import { packageOf } from '@/server/service/package/writePackage';

/** The whole project as a package. */
export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/projects/[projectId]/package'>) => {
  const ids = await readIds(params);
  return ids.ok ? outgoingResponse(await packageOf(ids.value.projectId)) : ids.response;
});
