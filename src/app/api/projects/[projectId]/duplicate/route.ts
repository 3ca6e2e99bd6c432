import { answering, readIds, respond } from '@/app/api/respond';
import { duplicate } from '@/server/service/keep';

/** Makes another project of what one is now. */
export const POST = answering(async (_request: Request, { params }: RouteContext<'/api/projects/[projectId]/duplicate'>) => {
  const ids = await readIds(params);
  return ids.ok ? respond(await duplicate(ids.value.projectId), 201) : ids.response;
});
