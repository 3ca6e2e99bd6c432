import { readPictureForm } from '@/app/api/pictureParts';
import { checkBody, refuse, respond } from '@/app/api/respond';
import { sendingSchema } from '@/contracts/project';
import { acceptSteps } from '@/server/service/steps';

/** Takes steps with their pictures: a form with `sending` (JSON) and a file `picture-<digest>` for each new picture. */
export async function POST(request: Request, { params }: RouteContext<'/api/projects/[projectId]/steps'>): Promise<Response> {
  const read = await readPictureForm(request, ['sending'], 'Steps are sent as a form with a part “sending”.');
  if (!read.ok) return read.response;
  const text = read.form.get('sending');
  let sent: unknown;
  try {
    sent = typeof text === 'string' ? JSON.parse(text) : null;
  } catch {
    return refuse(400, 'The part “sending” is not JSON.');
  }
  const sending = checkBody(sent, sendingSchema);
  if (!sending.ok) return sending.response;
  return respond(await acceptSteps((await params).projectId, sending.value, read.pictures));
}
