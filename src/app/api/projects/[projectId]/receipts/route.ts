import { readJson, respond } from '@/app/api/respond';
import { newReceiptSchema } from '@/contracts/receipt';
import { keepReceipt } from '@/server/service/projects';

export async function POST(request: Request, { params }: RouteContext<'/api/projects/[projectId]/receipts'>): Promise<Response> {
  const body = await readJson(request, newReceiptSchema);
  if (!body.ok) return body.response;
  return respond(await keepReceipt((await params).projectId, body.value), 201);
}
