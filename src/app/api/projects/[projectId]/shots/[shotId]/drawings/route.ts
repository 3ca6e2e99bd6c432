import { pdfResponse } from '@/app/api/pdfResponse';
import { answering, checkBody, readIds, refuse } from '@/app/api/respond';
import { contactSchema } from '@/contracts/print';
import { printContact } from '@/server/service/print';

/** A shot's drawings, each once, as a PDF: `?paper=a4|letter`. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/shots/[shotId]/drawings'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const choices = checkBody(Object.fromEntries(new URL(request.url).searchParams), contactSchema);
  if (!choices.ok) return choices.response;
  const { projectId, shotId } = ids.value;
  const printed = await printContact(projectId, shotId, choices.value.paper);
  return printed.ok ? pdfResponse(printed.value, 'drawings.pdf') : refuse(printed.status, printed.error);
});
