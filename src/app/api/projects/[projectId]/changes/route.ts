import { answering, readIds } from '@/app/api/respond';
import { endWithServer } from '@/server/service/inHand';
import { listenToProject } from '@/server/service/notices';

export const dynamic = 'force-dynamic';

/** A word now and then, so that a connection nobody listens to any more is noticed. */
const HEARTBEAT_MILLISECONDS = 15_000;

/** Tells what happens in a project as it happens, a stream of events as JSON: its revisions, and as events of their own who is there and which shots are in hand. */
export const GET = answering(async (request: Request, { params }: RouteContext<'/api/projects/[projectId]/changes'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  const encoder = new TextEncoder();
  let stop: () => void = () => undefined;
  let forget: () => void = () => undefined;
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const say = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          // The page is gone; what follows of its leaving stops this.
          stop();
        }
      };
      say(': listening\n\n');
      const leave = listenToProject(ids.value.projectId, ({ kind, ...notice }) =>
        say(`${kind === 'revision' ? '' : `event: ${kind}\n`}data: ${JSON.stringify(notice)}\n\n`),
      );
      const heartbeat = setInterval(() => say(': here\n\n'), HEARTBEAT_MILLISECONDS);
      stop = () => {
        clearInterval(heartbeat);
        leave();
        forget();
      };
      forget = endWithServer(() => {
        stop();
        controller.close();
      });
      request.signal.addEventListener('abort', stop);
    },
    cancel: () => stop(),
  });
  return new Response(stream, { headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' } });
});
