import { answering, readIds } from '@/app/api/respond';
import { letGoOfOutsideFilm } from '@/server/service/outsideFilms';

/** Lets go of a film that was begun, with all that was kept for it. */
export const DELETE = answering(async (_request: Request, { params }: RouteContext<'/api/encoder/[filmId]'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  await letGoOfOutsideFilm(ids.value.filmId);
  return new Response(null, { status: 204 });
});
