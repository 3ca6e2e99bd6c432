import { currentAccess } from '@/server/service/access';
import { isSession, sessionIn } from '@/server/service/sessions';

const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

function isOwn(address: string): boolean {
  try {
    const { hostname, host } = new URL(address);
    const access = currentAccess();
    return OWN_NAMES.has(hostname) || (access.kind === 'others' && host === access.origin.host);
  } catch {
    return false;
  }
}

/** The address a request came to: the named one, or this machine's own. */
export function ownAddress(headers: Headers): URL {
  const access = currentAccess();
  const host = headers.get('host') ?? '';
  return access.kind === 'others' && host === access.origin.host ? access.origin : new URL(`http://${host}`);
}

/** A refusal: its HTTP status, and a sentence. */
export type Foreign = { readonly status: number; readonly error: string };

/**
 * Why a request is not from one of this program's own pages; null when it is: a foreign Host could be a page
 * elsewhere that resolves its name to here, a foreign Origin a page elsewhere that posts to here.
 */
export function foreignRequest(headers: Headers): Foreign | null {
  const host = headers.get('host') ?? '';
  if (!isOwn(`http://${host}`)) return { status: 421, error: `Lime Tick answers to 127.0.0.1 and localhost only, not to “${host}”.` };
  const origin = headers.get('origin');
  if (origin !== null && (!isOwn(origin) || new URL(origin).host !== host))
    return { status: 403, error: `Lime Tick takes nothing from pages of “${origin}”.` };
  return null;
}

/** What is answered to whoever has not said the passphrase yet: the page that asks for it, and what it is made of. */
const BEFORE_SIGN_IN = /^\/(sign-in|api\/session|api\/health|_next\/static\/.*|look\.js|mark\.svg)$/;

/** Whether a request needs a session it doesn't have. */
export function needsSession(headers: Headers, pathname: string): boolean {
  if (currentAccess().kind === 'this-machine' || BEFORE_SIGN_IN.test(pathname)) return false;
  return !isSession(sessionIn(headers.get('cookie')), Date.now());
}

/** Whether an address can be read: its escapes are whole letters. */
export function isReadableAddress(pathname: string): boolean {
  try {
    decodeURIComponent(pathname);
    return true;
  } catch {
    return false;
  }
}
