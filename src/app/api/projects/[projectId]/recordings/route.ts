import { readNamedFile, respond } from '@/app/api/respond';
import { takeRecording } from '@/server/service/bringIn/takeRecording';

/** Takes one recording in: its bytes as the body, `?name=` what it is called. */
export async function POST(request: Request, { params }: { params: Promise<{ projectId: string }> }): Promise<Response> {
  const file = await readNamedFile(request);
  return file.ok ? respond(await takeRecording((await params).projectId, file.value.name, file.value.bytes)) : file.response;
}
