import { answering } from '@/app/api/respond';
import { storeState } from '@/server/service/storeState';

export const dynamic = 'force-dynamic';

/** How the store is: where it lies, how full it is, what is backed up, what went wrong. */
export const GET = answering(async () => Response.json(await storeState()));
