import { answering, readIds, respond } from '@/app/api/respond';
import { holdings } from '@/server/service/keep';

/** What a project holds, and what would go with it. */
export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/projects/[projectId]/holdings'>) => {
  const ids = await readIds(params);
  return ids.ok ? respond(await holdings(ids.value.projectId)) : ids.response;
});
