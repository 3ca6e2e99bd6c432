import { respond } from '@/app/api/respond';
import { openProject } from '@/server/service/projects';

export async function GET(_request: Request, { params }: RouteContext<'/api/projects/[projectId]'>): Promise<Response> {
  return respond(await openProject((await params).projectId));
}
