const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

function isOwn(address: string): boolean {
  try {
    return OWN_NAMES.has(new URL(address).hostname);
  } catch {
    return false;
  }
}

/** A refusal: its HTTP status, and a sentence. */
export type Foreign = { readonly status: number; readonly error: string };

/**
 * Why a request is not from one of this machine's own pages; null when it is: a foreign Host could be a page
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

/** Whether an address can be read: its escapes are whole letters. */
export function isReadableAddress(pathname: string): boolean {
  try {
    decodeURIComponent(pathname);
    return true;
  } catch {
    return false;
  }
}
