import { Readable } from 'node:stream';
import { answering, checkBody, refuse } from '@/app/api/respond';
import { digestSchema } from '@/contracts/document';
import { storableText } from '@/core/edit/wellFormed';
import { originalFile } from '@/server/service/bringIn/sources';

/** A file as it was brought in, byte for byte, under `?name=`. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/originals/[digest]'>) => {
  const digest = checkBody((await params).digest, digestSchema);
  if (!digest.ok) return digest.response;
  const file = await originalFile(digest.value);
  if (!file) return refuse(404, 'There is no such file here.');
  const name = new URL(request.url).searchParams.get('name') ?? digest.value;
  return new Response(Readable.toWeb(Readable.from(file.parts)) as ReadableStream<Uint8Array<ArrayBuffer>>, {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(file.sizeBytes),
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(storableText(name))}`,
      // What a digest names never changes.
      'Cache-Control': 'private, max-age=31536000, immutable',
      'X-Content-Type-Options': 'nosniff',
    },
  });
});
