import { outgoingResponse } from '@/app/api/outgoing';
import { answering, readIds } from '@/app/api/respond';
import { packageOf } from '@/server/service/package/writePackage';

/** The whole project as a package: `?journal=1` with the changes it was made by. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/package'>) => {
  const ids = await readIds(params);
  return ids.ok
    ? outgoingResponse(await packageOf(ids.value.projectId, new URL(request.url).searchParams.get('journal') === '1'))
    : ids.response;
});
