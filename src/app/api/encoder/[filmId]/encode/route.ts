import { answering, readIds, readJson, respond } from '@/app/api/respond';
import { linesOf } from '@/app/api/streams';
import { outsideRunsSchema } from '@/contracts/encoder';
import { encodeOutsideFilm } from '@/server/service/outsideFilms';

/** A run for each drawing of a film of any length. */
const MOST_BYTES = 64 * 1024 * 1024;

/** Has the film made of what came, telling line by line how far it is. Whoever goes away stops it. */
export const POST = answering(async (request: Request, { params }: RouteContext<'/api/encoder/[filmId]/encode'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const body = await readJson(request, outsideRunsSchema, MOST_BYTES);
  if (!body.ok) return body.response;
  const lines = await encodeOutsideFilm(ids.value.filmId, body.value.runs);
  return lines.ok ? linesOf(lines.value) : respond(lines);
});
