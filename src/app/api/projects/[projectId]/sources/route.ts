import { readJson, respond } from '@/app/api/respond';
import { newSourcesSchema } from '@/contracts/bringIn';
import { noteSources, sourcesOf } from '@/server/service/bringIn/sources';

export const dynamic = 'force-dynamic';

/** Files a project's pictures came from. */
export async function GET(_request: Request, { params }: { params: Promise<{ projectId: string }> }): Promise<Response> {
  return respond(await sourcesOf((await params).projectId));
}

/** Notes which files a level's pictures came from. */
export async function POST(request: Request, { params }: { params: Promise<{ projectId: string }> }): Promise<Response> {
  const body = await readJson(request, newSourcesSchema);
  return body.ok ? respond(await noteSources((await params).projectId, body.value.sources)) : body.response;
}
