import { answering, readJson } from '@/app/api/respond';
import { newProjectSchema } from '@/contracts/project';
import { createProject, shelf } from '@/server/service/projects';

export const dynamic = 'force-dynamic';

export const GET = answering(async () => Response.json({ projects: await shelf() }));

export const POST = answering(async (request: Request) => {
  const body = await readJson(request, newProjectSchema);
  if (!body.ok) return body.response;
  return Response.json(await createProject(body.value), { status: 201 });
});
