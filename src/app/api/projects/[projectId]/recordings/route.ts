import { answering, readIds, readLength, readName, respond } from '@/app/api/respond';
import { receiveFile } from '@/server/service/bringIn/receive';
import { takeRecording } from '@/server/service/bringIn/takeOriginal';

/** Takes one recording in: its bytes as the body, `?name=` what it is called. */
export const POST = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/recordings'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const name = readName(request);
  if (!name.ok) return name.response;
  return respond(
    await receiveFile(name.value, request.body, 'recording', (file) => takeRecording(ids.value.projectId, file), readLength(request)),
  );
});
