import { type NextRequest, NextResponse } from 'next/server';
import { foreignRequest, isReadableAddress } from '@/app/ownPages';

/** Answers this machine's own pages only, and only addresses that can be read. */
export function proxy(request: NextRequest): NextResponse {
  const foreign = foreignRequest(request.headers);
  if (foreign) return NextResponse.json({ error: foreign.error }, { status: foreign.status });
  if (!isReadableAddress(new URL(request.url).pathname))
    return NextResponse.json(
      { error: 'This address can’t be read: part of it is broken.' },
      { status: 400, headers: { 'lime-tick': '1' } },
    );
  return NextResponse.next();
}

/** Large files don't come through here, since they would be held in memory; their routes ask the same themselves. */
export const config = { matcher: '/((?!api/projects/[^/]+/(?:bring-in|clips|recordings)$).*)' };
