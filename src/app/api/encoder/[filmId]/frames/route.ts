import { answering, readIds, respond } from '@/app/api/respond';
import { linesOf } from '@/app/api/streams';
import { outsideFilmFrames } from '@/server/service/outsideFilms';

/** The frames of the film, decoded here, line by line. */
export const GET = answering(async (_request: Request, { params }: RouteContext<'/api/encoder/[filmId]/frames'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const lines = await outsideFilmFrames(ids.value.filmId);
  return lines.ok ? linesOf(lines.value) : respond(lines);
});
