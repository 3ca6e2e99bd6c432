import { type ByteRange, rangeOf } from '@/app/api/byteRange';
import { answering, checkBody, refuse } from '@/app/api/respond';
import { streamOf } from '@/app/api/streams';
import { digestSchema } from '@/contracts/document';
import { storableText } from '@/core/edit/wellFormed';
import { originalFile } from '@/server/service/bringIn/sources';

/** A file as it was brought in, byte for byte, under `?name=`; or the part of it that is asked for, as players of clips do. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/originals/[digest]'>) => {
  const digest = checkBody((await params).digest, digestSchema);
  if (!digest.ok) return digest.response;
  const file = await originalFile(digest.value);
  if (!file) return refuse(404, 'There is no such file here.');
  const name = new URL(request.url).searchParams.get('name') ?? digest.value;
  const asked = rangeOf(request.headers.get('range'), file.sizeBytes);
  if (asked === 'unsatisfiable') return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${file.sizeBytes}` } });
  const { from, to }: ByteRange = asked ?? { from: 0, to: file.sizeBytes };
  return new Response(streamOf(file.bytes(from, to)), {
    status: asked ? 206 : 200,
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(to - from),
      'Accept-Ranges': 'bytes',
      ...(asked ? { 'Content-Range': `bytes ${from}-${to - 1}/${file.sizeBytes}` } : {}),
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(storableText(name))}`,
      // What a digest names never changes.
      'Cache-Control': 'private, max-age=31536000, immutable',
      'X-Content-Type-Options': 'nosniff',
    },
  });
});
