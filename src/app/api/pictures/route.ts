import { z } from 'zod';
import { readPictureForm } from '@/app/api/pictureParts';
import { answering, checkBody, respond } from '@/app/api/respond';
import { digestSchema } from '@/contracts/document';
import { picturePngs } from '@/server/service/projects';
import { storePictures } from '@/server/service/sentPictures';

const digestsSchema = z.array(digestSchema).min(1, 'Ask for at least one picture.').max(64, 'At most 64 pictures are given at once.');

/**
 * Several pictures at once: `?digests=<digest>.<digest>…`. The answer holds for each, in that order, its
 * length as an unsigned 32-bit big-endian number and that many bytes of PNG; 0 for one that is missing. Only
 * an answer with all of them may be kept: one that is missing now may be there in a moment.
 */
export const GET = answering(async (request: Request) => {
  const digests = checkBody((new URL(request.url).searchParams.get('digests') ?? '').split('.').filter(Boolean), digestsSchema);
  if (!digests.ok) return digests.response;
  const pngs = await picturePngs(digests.value);
  const parts = pngs.flatMap((png) => {
    const length = Buffer.alloc(4);
    length.writeUInt32BE(png?.byteLength ?? 0);
    return png ? [length, png] : [length];
  });
  const isWhole = pngs.every((png) => png !== null);
  return new Response(Buffer.concat(parts), {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Cache-Control': isWhole ? 'private, max-age=31536000, immutable' : 'no-store',
    },
  });
});

/** Stores pictures ahead of the steps that name them: a form of files named `picture-<digest>`. */
export const POST = answering(async (request: Request) => {
  const read = await readPictureForm(request, [], 'Pictures are sent as a form of files.');
  return read.ok ? respond(await storePictures(read.pictures)) : read.response;
});
