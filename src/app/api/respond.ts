import type { z } from 'zod';
import { sentenceOf } from '@/contracts/sentence';
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
