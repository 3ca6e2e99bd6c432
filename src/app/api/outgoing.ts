import { respond } from '@/app/api/respond';
import { streamOf } from '@/app/api/streams';
import type { Answer } from '@/server/service/answer';
import type { OutgoingPackage } from '@/server/service/package/outgoing';

/** A ZIP that is made as it is read; about how many bytes it has is said before. */
export function outgoingResponse(made: Answer<OutgoingPackage>): Response {
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
}
