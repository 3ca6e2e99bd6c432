import { checkBody, refuse, respond } from '@/app/api/respond';
import { digestSchema } from '@/contracts/document';
import { sendingSchema } from '@/contracts/project';
import { LARGEST_PICTURE_BYTES } from '@/core/sheet/size';
import { acceptSteps, type SentPicture } from '@/server/service/steps';

/** Room for the largest picture with its steps. */
const MOST_BYTES = LARGEST_PICTURE_BYTES + 16 * 1024 * 1024;

/** Takes steps with their pictures: a form with `sending` (JSON) and a file `picture-<digest>` for each new picture. */
export async function POST(request: Request, { params }: RouteContext<'/api/projects/[projectId]/steps'>): Promise<Response> {
  const bytes = Number(request.headers.get('content-length') ?? 0);
  if (bytes > MOST_BYTES)
    return refuse(
      413,
      `The sending has ${Math.ceil(bytes / 1024 / 1024)} MiB; ${MOST_BYTES / 1024 / 1024} MiB is the most that is taken at once.`,
    );
  let form: FormData;
  try {
    form = await request.formData();
  } catch {
    return refuse(400, 'Steps are sent as a form with a part “sending”.');
  }
  const text = form.get('sending');
  let sent: unknown;
  try {
    sent = typeof text === 'string' ? JSON.parse(text) : null;
  } catch {
    return refuse(400, 'The part “sending” is not JSON.');
  }
  const sending = checkBody(sent, sendingSchema);
  if (!sending.ok) return sending.response;
  const pictures: SentPicture[] = [];
  for (const [name, part] of form) {
    if (name === 'sending') continue;
    const digest = digestSchema.safeParse(name.replace(/^picture-/, ''));
    if (!digest.success || typeof part === 'string')
      return refuse(400, `The part “${name}” is not understood: pictures are files named picture-<digest>.`);
    if (part.size > LARGEST_PICTURE_BYTES)
      return refuse(413, `The picture has ${(part.size / 1024 / 1024).toFixed(1)} MiB; 64 MiB is the most that is taken.`);
    pictures.push({ digest: digest.data, png: new Uint8Array(await part.arrayBuffer()) });
  }
  return respond(await acceptSteps((await params).projectId, sending.value, pictures));
}
