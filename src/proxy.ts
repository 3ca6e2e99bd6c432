import { type NextRequest, NextResponse } from 'next/server';

const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

function isOwn(address: string): boolean {
  try {
    return OWN_NAMES.has(new URL(address).hostname);
  } catch {
    return false;
  }
}

/**
 * Answers this machine's own pages only: a foreign Host could be a page elsewhere that resolves its name
 * to here, a foreign Origin a page elsewhere that posts to here.
 */
export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get('host') ?? '';
  if (!isOwn(`http://${host}`)) {
    return NextResponse.json({ error: `Lime Tick answers to 127.0.0.1 and localhost only, not to “${host}”.` }, { status: 421 });
  }
  const origin = request.headers.get('origin');
  if (origin !== null && (!isOwn(origin) || new URL(origin).host !== host)) {
    return NextResponse.json({ error: `Lime Tick takes nothing from pages of “${origin}”.` }, { status: 403 });
  }
  return NextResponse.next();
}
