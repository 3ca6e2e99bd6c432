import { answering, readIds, respond } from '@/app/api/respond';
import { receiptOf } from '@/server/service/projects';

export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/projects/[projectId]/receipts/[receiptId]'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  return respond(await receiptOf(ids.value.projectId, ids.value.receiptId));
});
