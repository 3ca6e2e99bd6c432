import { answering } from '@/app/api/respond';
import { freeableNow, freeNow } from '@/server/service/storeState';

export const dynamic = 'force-dynamic';

/** How much could be freed: what nothing names any more. */
export const GET = answering(async () => Response.json(await freeableNow()));

/** Frees it. */
export const POST = answering(async () => Response.json(await freeNow()));
