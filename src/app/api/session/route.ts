import { answering, readJson, refuse } from '@/app/api/respond';
import { passphraseSchema } from '@/contracts/session';
import { endSession, sessionCookie, sessionIn, signIn } from '@/server/service/sessions';

/** Where a request came from: the address the proxy in front of this server saw, which it writes last. */
const addressOf = (request: Request): string => request.headers.get('x-forwarded-for')?.split(',').at(-1)?.trim() ?? 'unknown';

/** Signs in with the passphrase. */
export const POST = answering(async (request: Request) => {
  const body = await readJson(request, passphraseSchema);
  if (!body.ok) return body.response;
  const signedIn = await signIn(body.value.passphrase, addressOf(request), Date.now());
  if (signedIn.kind === 'session') return Response.json({ signedIn: true }, { headers: { 'Set-Cookie': sessionCookie(signedIn.token) } });
  const response = refuse(signedIn.kind === 'wait' ? 429 : 403, signedIn.words);
  if (signedIn.kind === 'wait') response.headers.set('Retry-After', String(signedIn.seconds));
  return response;
});

/** Signs out. */
export const DELETE = answering(async (request: Request) => {
  endSession(sessionIn(request.headers.get('cookie')));
  return Response.json({ signedIn: false }, { headers: { 'Set-Cookie': sessionCookie(null) } });
});
