import { answering, readIds, readJson, respond } from '@/app/api/respond';
import { newReceiptSchema } from '@/contracts/receipt';
import { keepReceipt } from '@/server/service/projects';

/** A receipt holds a digest for each frame of a film of any length. */
const MOST_BYTES = 64 * 1024 * 1024;

export const POST = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/receipts'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, newReceiptSchema, MOST_BYTES);
  if (!body.ok) return body.response;
  return respond(await keepReceipt(ids.value.projectId, body.value));
});
