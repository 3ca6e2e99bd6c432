import { answering, readIds, readPart, respond } from '@/app/api/respond';
import { takeOutsideSound } from '@/server/service/outsideFilms';

const LARGEST_PART_BYTES = 16 * 1024 * 1024;

/** Takes a part of the film's sound: samples as the body, `?sample=` where the first of them is. */
export const PUT = answering(async (request: Request, { params }: RouteContext<'/api/encoder/[filmId]/sound'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const part = await readPart(request, 'sample', LARGEST_PART_BYTES);
  return part.ok ? respond(await takeOutsideSound(ids.value.filmId, part.value.at, part.value.bytes)) : part.response;
});
