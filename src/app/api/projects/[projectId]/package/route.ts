import { answering, readIds, respond } from '@/app/api/respond';
import { streamOf } from '@/app/api/streams';
import { packageOf } from '@/server/service/package/writePackage';

/** The whole project as a package, as it is made; about how many bytes it has is said before. */
export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/projects/[projectId]/package'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const made = await packageOf(ids.value.projectId);
  if (!made.ok) return respond(made);
  const { bytes, fileName, aboutBytes } = made.value;
  return new Response(streamOf(bytes), {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'Cache-Control': 'no-store',
      'lime-tick-bytes': String(aboutBytes),
    },
  });
});
