import { answering, readIds, readLength, readName, refuse, respond } from '@/app/api/respond';
import { alphaSchema } from '@/contracts/bringIn';
import { receiveFile } from '@/server/service/bringIn/receive';
import { takeFile } from '@/server/service/bringIn/takeFile';

/** Takes one file in: its bytes as the body, `?name=` what it is called, `?alpha=` how its half-transparent colours are written. */
export const POST = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/bring-in'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const alpha = alphaSchema.safeParse(new URL(request.url).searchParams.get('alpha') ?? 'straight');
  if (!alpha.success) return refuse(400, 'A file is brought in with alpha straight or premultiplied.');
  const name = readName(request);
  if (!name.ok) return name.response;
  return respond(
    await receiveFile(name.value, request.body, 'picture', (file) => takeFile(ids.value.projectId, file, alpha.data), readLength(request)),
  );
});
