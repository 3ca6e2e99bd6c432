import { readPictureForm } from '@/app/api/pictureParts';
import { answering, checkBody, readIds, refuse, respond } from '@/app/api/respond';
import { atRevisionSchema, sendingSchema } from '@/contracts/project';
import { acceptSteps, changesSince } from '@/server/service/steps';

type Context = RouteContext<'/api/projects/[projectId]/steps'>;

/** Takes steps with their pictures: a form with `sending` (JSON) and a file `picture-<digest>` for each new picture. */
export const POST = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
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
  return respond(await acceptSteps(ids.value.projectId, sending.value, read.pictures));
});

/** What was accepted after a revision: `?since=`. */
export const GET = answering(async (request: Request, { params }: Context) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const since = checkBody(new URL(request.url).searchParams.get('since'), atRevisionSchema);
  return since.ok ? respond(await changesSince(ids.value.projectId, since.value)) : since.response;
});
