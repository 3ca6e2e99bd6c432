import type { EncodingLine, OutsideOrder, OutsideRun, ReadingLine } from '@/core/output/outsideFilm';
import { linesOf } from '@/workers/lines';

/*
 * What is asked of the outside encoder on Lime Tick's own server. A refusal comes as a sentence, which is thrown.
 */

/** The server refuses; the message says why. */
export class OutsideRefused extends Error {
  override readonly name = 'OutsideRefused';
}

async function answerOf(address: string, init: RequestInit): Promise<Response> {
  const response = await fetch(address, { cache: 'no-store', ...init }).catch((error: unknown) => {
    if (init.signal?.aborted) throw error;
    throw new OutsideRefused(
      'The server does not answer, so the film was not made. Nothing was left behind: hand over again when it does.',
    );
  });
  if (response.ok) return response;
  const said: unknown = await response.json().catch(() => null);
  const reason =
    typeof said === 'object' && said !== null && 'error' in said ? String(said.error) : `The server refused the film (${response.status}).`;
  throw new OutsideRefused(reason);
}

const json = (body: object): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

/** Where a film's copy on the server is read. */
export const framesAddress = (filmAddress: string): string => `${filmAddress}/frames`;

/** A film with the outside encoder, from its beginning until it is let go. */
export class OutsideFilm {
  private constructor(
    readonly address: string,
    private readonly stop: AbortSignal,
  ) {}

  static async begin(order: OutsideOrder, stop: AbortSignal): Promise<OutsideFilm> {
    const response = await answerOf('/api/encoder', { ...json(order), signal: stop });
    const { id } = (await response.json()) as { id: string };
    return new OutsideFilm(`/api/encoder/${id}`, stop);
  }

  private async put(address: string, body: Uint8Array): Promise<void> {
    await answerOf(`${this.address}/${address}`, { method: 'PUT', body: body as Uint8Array<ArrayBuffer>, signal: this.stop });
  }

  sendPicture = (picture: number, png: Uint8Array): Promise<void> => this.put(`pictures?number=${picture}`, png);
  sendSound = (fromSample: number, samples: Uint8Array): Promise<void> => this.put(`sound?sample=${fromSample}`, samples);

  /** Has it encoded, telling how many frames are. */
  async encode(runs: readonly OutsideRun[], onEncoded: (frames: number) => void): Promise<void> {
    const response = await answerOf(`${this.address}/encode`, { ...json({ runs }), signal: this.stop });
    for await (const line of linesOf<EncodingLine>(response)) {
      if (line.kind === 'encoded') onEncoded(line.frames);
      else if (line.kind === 'failed') throw new OutsideRefused(`The outside encoder failed: ${line.reason}. Nothing was left behind.`);
      else return;
    }
    throw new OutsideRefused('The outside encoder ended before the film did. Nothing was left behind.');
  }

  /** Its file, as a stream. */
  async file(): Promise<ReadableStream<Uint8Array>> {
    const { body } = await answerOf(`${this.address}/film`, { signal: this.stop });
    if (!body) throw new OutsideRefused('The film did not come over from the server. Nothing was left behind.');
    return body;
  }

  /** Lets go of what is kept of it on the server. */
  async letGo(): Promise<void> {
    // It lets go by itself after a while: a server that is away keeps nothing for good.
    await fetch(this.address, { method: 'DELETE', keepalive: true }).catch(() => undefined);
  }
}

/** The frames of a film's copy on the server. */
export async function* framesAt(address: string, stop: AbortSignal): AsyncGenerator<ReadingLine> {
  yield* linesOf<ReadingLine>(await answerOf(framesAddress(address), { signal: stop }));
}
