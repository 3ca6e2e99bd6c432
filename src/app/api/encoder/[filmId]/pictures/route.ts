import { answering, readIds, readPart, respond } from '@/app/api/respond';
import { LARGEST_PICTURE_BYTES } from '@/core/document/size';
import { takeOutsidePicture } from '@/server/service/outsideFilms';

/** Takes a picture of the film: a PNG as the body, `?number=` the number it goes by. */
export const PUT = answering(async (request: Request, { params }: RouteContext<'/api/encoder/[filmId]/pictures'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const part = await readPart(request, 'number', LARGEST_PICTURE_BYTES);
  return part.ok ? respond(await takeOutsidePicture(ids.value.filmId, part.value.at, part.value.bytes)) : part.response;
});
