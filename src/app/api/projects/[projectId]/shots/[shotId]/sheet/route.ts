import { pdfResponse } from '@/app/api/pdfResponse';
import { answering, checkBody, readIds, refuse } from '@/app/api/respond';
import { printSchema } from '@/contracts/print';
import { printSheet } from '@/server/service/print';

/** A shot's sheet as a PDF: `?paper=a4|letter&frames=96|100&charts=0|1`. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/shots/[shotId]/sheet'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const choices = checkBody(Object.fromEntries(new URL(request.url).searchParams), printSchema);
  if (!choices.ok) return choices.response;
  const { projectId, shotId } = ids.value;
  const printed = await printSheet(projectId, shotId, choices.value);
  return printed.ok ? pdfResponse(printed.value, 'sheet.pdf') : refuse(printed.status, printed.error);
});
