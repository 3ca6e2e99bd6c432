import { randomUUID } from 'node:crypto';
import type { z } from 'zod';
import { foreignRequest, needsSession } from '@/app/ownPages';
import { idSchema } from '@/contracts/document';
import { sentenceOf } from '@/contracts/sentence';
import { checkStorable, storableText } from '@/core/edit/wellFormed';
import { log } from '@/server/log';
import type { Answer } from '@/server/service/answer';
import { databaseIsAway, diskIsFull } from '@/server/service/health';
import { whileInHand } from '@/server/service/inHand';

/** An HTTP refusal: one sentence. */
export const refuse = (status: number, error: string, details: object = {}): Response => Response.json({ error, ...details }, { status });

/** A service's answer as an HTTP response. */
export const respond = <T>(answer: Answer<T>, okStatus = 200): Response =>
  answer.ok ? Response.json(answer.value, { status: okStatus }) : refuse(answer.status, answer.error, answer.details);

/** Says that an answer is Lime Tick's own, and not that of something in between; a page believes no other. */
const OWN_HEADER = 'lime-tick';

function failure(error: unknown, id: string): Response {
  if (diskIsFull(error)) {
    log.error({ id, err: error }, 'the disk is full');
    return refuse(503, 'The disk that holds the data is full: make room on it. What you did is safe in your browser and is sent then.');
  }
  if (databaseIsAway(error)) {
    log.warn({ id, err: error }, 'the database did not answer');
    return refuse(503, 'The database does not answer just now. What you did is safe in your browser and is sent when it does.');
  }
  log.error({ id, err: error }, 'a request failed');
  return refuse(500, `The server failed at this. What you did is safe in your browser; the server’s log says more under ${id}.`);
}

/** Why a request is not answered; null when it is. */
function refusedAtTheDoor(request: Request, pathname: string): Response | null {
  // What is called without having come over HTTP has no host.
  if (!request.headers.has('host')) return null;
  const foreign = foreignRequest(request.headers);
  if (foreign) return refuse(foreign.status, foreign.error);
  return needsSession(request.headers, pathname) ? refuse(401, 'Say the passphrase first: open this address in a browser.') : null;
}

/** A route whose every answer is a sentence or what was asked for, also when something fails; each has an id, by which the log tells of it. */
export const answering =
  <Context>(handle: (request: Request, context: Context) => Promise<Response>) =>
  async (request: Request, context: Context): Promise<Response> => {
    const id = randomUUID();
    const startedAt = performance.now();
    const { pathname } = new URL(request.url);
    const response =
      refusedAtTheDoor(request, pathname) ??
      (await whileInHand(() => handle(request, context)).catch((error: unknown) => failure(error, id)));
    response.headers.set(OWN_HEADER, '1');
    response.headers.set('lime-tick-request', id);
    // What is named by its digest says itself that it may be kept.
    if (!response.headers.has('Cache-Control')) response.headers.set('Cache-Control', 'no-store');
    const { method } = request;
    log[method === 'GET' ? 'debug' : 'info'](
      { id, method, path: pathname, status: response.status, milliseconds: Math.round(performance.now() - startedAt) },
      'answered',
    );
    return response;
  };

type CheckResult<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly response: Response };

/** The checked ids of a route's address, or the refusal to send: what can't be an id names nothing. */
export async function readIds<Ids extends Record<string, string>>(params: Promise<Ids>): Promise<CheckResult<Ids>> {
  const ids = await params;
  const bad = Object.values(ids).find((id) => !idSchema.safeParse(id).success);
  return bad === undefined ? { ok: true, value: ids } : { ok: false, response: refuse(404, 'There is nothing here of that name.') };
}

const MEBIBYTE = 1024 * 1024;
/** Most bytes of a JSON body, where a route doesn't say otherwise. */
const MOST_JSON_BYTES = 4 * MEBIBYTE;

const tooLarge = (mostBytes: number): Response => refuse(413, `At most ${mostBytes / MEBIBYTE} MiB are taken at once.`);

/** The bytes of a body, or the refusal to send: what is longer than `mostBytes` is never held. */
export async function readBytes(request: Request, mostBytes: number): Promise<CheckResult<Uint8Array<ArrayBuffer>>> {
  if ((readLength(request) ?? 0) > mostBytes) return { ok: false, response: tooLarge(mostBytes) };
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const part of request.body ?? []) {
    length += part.byteLength;
    if (length > mostBytes) return { ok: false, response: tooLarge(mostBytes) };
    parts.push(part);
  }
  return { ok: true, value: Buffer.concat(parts) };
}

/** The checked body of a JSON request, or the refusal to send. */
export async function readJson<S extends z.ZodType>(
  request: Request,
  schema: S,
  mostBytes = MOST_JSON_BYTES,
): Promise<CheckResult<z.output<S>>> {
  const bytes = await readBytes(request, mostBytes);
  if (!bytes.ok) return bytes;
  let body: unknown;
  try {
    body = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.value));
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
  const bytes = await readBytes(request, mostBytes);
  if (!bytes.ok) return bytes;
  return { ok: true, value: { at: Number(said), bytes: bytes.value } };
}

/** Most characters of a file's name. */
const LONGEST_NAME = 255;

/** The name of a file that is brought in, from `?name=`: what can't be stored is left out, and so is what is too long; or the refusal to send. */
export function readName(request: Request): CheckResult<string> {
  const said = storableText(new URL(request.url).searchParams.get('name') ?? '');
  const name = storableText(said.slice(0, LONGEST_NAME));
  return name === '' ? { ok: false, response: refuse(400, 'A file is brought in with its name.') } : { ok: true, value: name };
}
