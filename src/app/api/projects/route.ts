import { readJson } from '@/app/api/respond';
import { newProjectSchema } from '@/contracts/project';
import { createProject, shelf } from '@/server/service/projects';

export const dynamic = 'force-dynamic';

export async function GET(): Promise<Response> {
  return Response.json({ projects: await shelf() });
}

export async function POST(request: Request): Promise<Response> {
  const body = await readJson(request, newProjectSchema);
  if (!body.ok) return body.response;
  return Response.json(await createProject(body.value), { status: 201 });
}
