import { readNamedFile, refuse, respond } from '@/app/api/respond';
import { alphaSchema } from '@/contracts/bringIn';
import { takeFile } from '@/server/service/bringIn/takeFile';

/** Takes one file in: its bytes as the body, `?name=` what it is called, `?alpha=` how its half-transparent colours are written. */
export async function POST(request: Request, { params }: { params: Promise<{ projectId: string }> }): Promise<Response> {
  const alpha = alphaSchema.safeParse(new URL(request.url).searchParams.get('alpha') ?? 'straight');
  if (!alpha.success) return refuse(400, 'A file is brought in with alpha straight or premultiplied.');
  const file = await readNamedFile(request);
  return file.ok ? respond(await takeFile((await params).projectId, file.value.name, file.value.bytes, alpha.data)) : file.response;
}
