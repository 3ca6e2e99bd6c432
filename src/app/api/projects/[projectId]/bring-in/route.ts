import { refuse, respond } from '@/app/api/respond';
import { alphaSchema } from '@/contracts/bringIn';
import { LARGEST_PICTURE_BYTES } from '@/core/sheet/size';
import { takeFile } from '@/server/service/bringIn/takeFile';

const LONGEST_NAME = 255;

/** Takes one file in: its bytes as the body, `?name=` what it is called, `?alpha=` how its half-transparent colours are written. */
export async function POST(request: Request, { params }: { params: Promise<{ projectId: string }> }): Promise<Response> {
  const query = new URL(request.url).searchParams;
  const alpha = alphaSchema.safeParse(query.get('alpha') ?? 'straight');
  const name = (query.get('name') ?? '').slice(0, LONGEST_NAME);
  if (!alpha.success || name === '') return refuse(400, 'A file is brought in with its name, and with alpha straight or premultiplied.');
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST_PICTURE_BYTES)
    return refuse(413, 'The file is larger than 64 MiB, which is the most that is brought in.');
  const bytes = new Uint8Array(await request.arrayBuffer());
  return respond(await takeFile((await params).projectId, name, bytes, alpha.data));
}
