import { outgoingResponse } from '@/app/api/outgoing';
import { answering, readIds } from '@/app/api/respond';
import { drawingsOf } from '@/server/service/package/writeDrawings';

/** The project's drawings alone, with how long each is held. */
export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/projects/[projectId]/drawings'>) => {
  const ids = await readIds(params);
  return ids.ok ? outgoingResponse(await drawingsOf(ids.value.projectId)) : ids.response;
});
