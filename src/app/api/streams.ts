import { takeInHand } from '@/server/service/inHand';

/** Bytes as they are asked for, none ahead: whoever reads a part of them goes away after it. */
export function streamOf(bytes: AsyncIterable<Uint8Array>): ReadableStream<Uint8Array<ArrayBuffer>> {
  const parts = bytes[Symbol.asyncIterator]();
  const letGo = takeInHand();
  return new ReadableStream(
    {
      async pull(controller) {
        const { value, done } = await parts.next().catch((error: unknown) => {
          letGo();
          throw error;
        });
        if (done) {
          letGo();
          controller.close();
        } else controller.enqueue(value as Uint8Array<ArrayBuffer>);
      },
      async cancel() {
        letGo();
        await parts.return?.();
      },
    },
    { highWaterMark: 0 },
  );
}

async function* inBytes(lines: AsyncIterable<object>): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  for await (const line of lines) yield encoder.encode(`${JSON.stringify(line)}\n`);
}

/** What is told line by line, each as JSON. Whoever goes away ends it. */
export const linesOf = (lines: AsyncIterable<object>): Response =>
  new Response(streamOf(inBytes(lines)), {
    headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' },
  });
