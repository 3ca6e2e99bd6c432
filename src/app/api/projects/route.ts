import { answering, readJson } from '@/app/api/respond';
import { newProjectSchema } from '@/contracts/project';
import { createProject } from '@/server/service/projects';
import { shelf } from '@/server/service/shelf';

export const dynamic = 'force-dynamic';

export const GET = answering(async () => Response.json({ projects: await shelf() }));

export const POST = answering(async (request: Request) => {
  const body = await readJson(request, newProjectSchema);
  if (!body.ok) return body.response;
  return Response.json(await createProject(body.value), { status: 201 });
});
