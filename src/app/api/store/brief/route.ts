import { answering } from '@/app/api/respond';
import { storeBrief } from '@/server/service/storeState';

export const dynamic = 'force-dynamic';

/** How full the store is, and when it was backed up last. */
export const GET = answering(async () => Response.json(await storeBrief()));
