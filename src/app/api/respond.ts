import type { z } from 'zod';
import { sentenceOf } from '@/contracts/sentence';
import { LARGEST_PICTURE_BYTES } from '@/core/sheet/size';
import type { Answer } from '@/server/service/answer';

/** An HTTP refusal: one sentence. */
export const refuse = (status: number, error: string, details: object = {}): Response => Response.json({ error, ...details }, { status });

/** A service's answer as an HTTP response. */
export const respond = <T>(answer: Answer<T>, okStatus = 200): Response =>
  answer.ok ? Response.json(answer.value, { status: okStatus }) : refuse(answer.status, answer.error, answer.details);

/** The checked body of a JSON request, or the refusal to send. */
export async function readJson<S extends z.ZodType>(
  request: Request,
  schema: S,
): Promise<{ ok: true; value: z.infer<S> } | { ok: false; response: Response }> {
  let body: unknown;
  try {
    body = await request.json();
  } catch {
    return { ok: false, response: refuse(400, 'The message is not JSON.') };
  }
  return checkBody(body, schema);
}

/** A body held against its contract, or the refusal to send. */
export function checkBody<S extends z.ZodType>(
  body: unknown,
  schema: S,
): { ok: true; value: z.infer<S> } | { ok: false; response: Response } {
  const parsed = schema.safeParse(body);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, response: refuse(400, sentenceOf(parsed.error)) };
}

const LONGEST_NAME = 255;

/** A file that is brought in: its bytes as the body, `?name=` what it is called; or the refusal to send. */
export async function readNamedFile(
  request: Request,
): Promise<{ ok: true; value: { name: string; bytes: Uint8Array } } | { ok: false; response: Response }> {
  const name = (new URL(request.url).searchParams.get('name') ?? '').slice(0, LONGEST_NAME);
  if (name === '') return { ok: false, response: refuse(400, 'A file is brought in with its name.') };
  const tooLarge = () => refuse(413, 'The file is larger than 64 MiB, which is the most that is brought in.');
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST_PICTURE_BYTES) return { ok: false, response: tooLarge() };
  const bytes = new Uint8Array(await request.arrayBuffer());
  // A body that comes in parts says nothing of its length before.
  return bytes.byteLength > LARGEST_PICTURE_BYTES ? { ok: false, response: tooLarge() } : { ok: true, value: { name, bytes } };
}
