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
  if (!printed.ok) return refuse(printed.status, printed.error);
  const { fileName, pdf } = printed.value;
  return new Response(new Uint8Array(pdf), {
    headers: {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="sheet.pdf"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
    },
  });
});
