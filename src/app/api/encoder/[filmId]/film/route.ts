import { answering, readIds, respond } from '@/app/api/respond';
import { streamOf } from '@/app/api/streams';
import { outsideFilmFile } from '@/server/service/outsideFilms';

/** The film as it was encoded. */
export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/encoder/[filmId]/film'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const file = await outsideFilmFile(ids.value.filmId);
  if (!file.ok) return respond(file);
  return new Response(streamOf(file.value.bytes), {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(file.value.sizeBytes),
      'Cache-Control': 'no-store',
      'X-Content-Type-Options': 'nosniff',
    },
  });
});
