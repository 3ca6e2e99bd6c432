import { randomBytes } from 'node:crypto';
import { type NextRequest, NextResponse } from 'next/server';
import { contentPolicy } from '@/app/contentPolicy';
import { foreignRequest, isReadableAddress, needsSession, ownAddress } from '@/app/ownPages';

const POLICY = 'Content-Security-Policy';

/** A refusal; a page believes no other than Lime Tick's own. */
const refusal = (status: number, error: string) =>
  NextResponse.json({ error }, { status, headers: { 'lime-tick': '1', 'Cache-Control': 'no-store' } });

/** Answers the program's own pages only, whoever may ask, and only addresses that can be read; and says what a page may load. */
export function proxy(request: NextRequest): NextResponse {
  const { pathname } = new URL(request.url);
  const foreign = foreignRequest(request.headers);
  if (foreign) return refusal(foreign.status, foreign.error);
  if (!isReadableAddress(pathname)) return refusal(400, 'This address can’t be read: part of it is broken.');
  if (needsSession(request.headers, pathname))
    return pathname.startsWith('/api/') ? refusal(401, 'Say the passphrase first: open this address in a browser.') : toSignIn(request);
  // A program by itself needs none: what it may do is said by the page that runs it.
  if (pathname.startsWith('/_next/static/')) return NextResponse.next();
  const nonce = randomBytes(16).toString('base64');
  const policy = contentPolicy(nonce, process.env.NODE_ENV !== 'production');
  const headers = new Headers(request.headers);
  // What is written into the page by the server takes its nonce from here.
  headers.set(POLICY, policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set(POLICY, policy);
  return response;
}

/** Sends a browser to the page that asks for the passphrase, which comes back here. */
function toSignIn({ nextUrl: { pathname, search }, headers }: NextRequest): NextResponse {
  const to = pathname === '/' ? '' : `?to=${encodeURIComponent(pathname + search)}`;
  return NextResponse.redirect(new URL(`/sign-in${to}`, ownAddress(headers)), { status: 303, headers: { 'Cache-Control': 'no-store' } });
}

/** Large files don't come through here, since they would be held in memory; their routes ask the same themselves. */
export const config = { matcher: '/((?!api/projects/[^/]+/(?:bring-in|clips|recordings)$|api/packages$).*)' };
