import type { z } from 'zod';
import { foreignRequest } from '@/app/ownPages';
import { idSchema } from '@/contracts/document';
import { sentenceOf } from '@/contracts/sentence';
import { checkStorable, storableText } from '@/core/edit/wellFormed';
import type { Answer } from '@/server/service/answer';
import { databaseIsAway } from '@/server/service/health';

/** An HTTP refusal: one sentence. */
export const refuse = (status: number, error: string, details: object = {}): Response => Response.json({ error, ...details }, { status });

/** A service's answer as an HTTP response. */
export const respond = <T>(answer: Answer<T>, okStatus = 200): Response =>
  answer.ok ? Response.json(answer.value, { status: okStatus }) : refuse(answer.status, answer.error, answer.details);

/** Says that an answer is Lime Tick's own, and not that of something in between; a page believes no other. */
const OWN_HEADER = 'lime-tick';

function failure(error: unknown): Response {
  if (databaseIsAway(error))
    return refuse(503, 'The database does not answer just now. What you did is safe in your browser and is sent when it does.');
  console.error(error);
  return refuse(500, 'The server failed at this. What you did is safe in your browser; the server’s window says more.');
}

/** A route whose every answer is a sentence or what was asked for, also when something fails. */
export const answering =
  <Context>(handle: (request: Request, context: Context) => Promise<Response>) =>
  async (request: Request, context: Context): Promise<Response> => {
    const foreign = request.headers.has('host') ? foreignRequest(request.headers) : null;
    const response = foreign ? refuse(foreign.status, foreign.error) : await handle(request, context).catch(failure);
    response.headers.set(OWN_HEADER, '1');
    return response;
  };

type CheckResult<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly response: Response };

/** The checked ids of a route's address, or the refusal to send: what can't be an id names nothing. */
export async function readIds<Ids extends Record<string, string>>(params: Promise<Ids>): Promise<CheckResult<Ids>> {
  const ids = await params;
  const bad = Object.values(ids).find((id) => !idSchema.safeParse(id).success);
  return bad === undefined ? { ok: true, value: ids } : { ok: false, response: refuse(404, 'There is nothing here of that name.') };
}

/** The checked body of a JSON request, or the refusal to send. */
export async function readJson<S extends z.ZodType>(request: Request, schema: S): Promise<CheckResult<z.output<S>>> {
  let body: unknown;
  try {
    body = await request.json();
  } catch {
    return { ok: false, response: refuse(400, 'The message is not JSON.') };
  }
  return checkBody(body, schema);
}

/** A body held against its contract, or the refusal to send. */
export function checkBody<S extends z.ZodType>(body: unknown, schema: S): CheckResult<z.output<S>> {
  const storable = checkStorable(body);
  if (!storable.ok) return { ok: false, response: refuse(400, storable.reason) };
  const parsed = schema.safeParse(body);
  return parsed.success ? { ok: true, value: parsed.data } : { ok: false, response: refuse(400, sentenceOf(parsed.error)) };
}

/** How many bytes a request says its body has; null when it doesn't. */
export function readLength(request: Request): number | null {
  const said = request.headers.get('content-length');
  return said !== null && /^\d+$/.test(said) ? Number(said) : null;
}

/** The body of a request and the number that its address says under a name, or the refusal to send. */
export async function readPart(request: Request, name: string, mostBytes: number): Promise<CheckResult<{ at: number; bytes: Uint8Array }>> {
  const said = new URL(request.url).searchParams.get(name) ?? '';
  if (!/^\d{1,12}$/.test(said)) return { ok: false, response: refuse(400, `The address doesn’t say which ${name} it is.`) };
  if ((readLength(request) ?? 0) > mostBytes)
    return { ok: false, response: refuse(413, `At most ${mostBytes / 1024 / 1024} MiB are taken at once.`) };
  const bytes = new Uint8Array(await request.arrayBuffer());
  if (bytes.byteLength > mostBytes)
    return { ok: false, response: refuse(413, `At most ${mostBytes / 1024 / 1024} MiB are taken at once.`) };
  return { ok: true, value: { at: Number(said), bytes } };
}

/** Most characters of a file's name. */
const LONGEST_NAME = 255;

/** The name of a file that is brought in, from `?name=`: what can't be stored is left out, and so is what is too long; or the refusal to send. */
export function readName(request: Request): CheckResult<string> {
  const said = storableText(new URL(request.url).searchParams.get('name') ?? '');
  const name = storableText(said.slice(0, LONGEST_NAME));
  return name === '' ? { ok: false, response: refuse(400, 'A file is brought in with its name.') } : { ok: true, value: name };
}
