import { answering } from '@/app/api/respond';
import { getDatabaseReady } from '@/server/service/health';

export const dynamic = 'force-dynamic';

export const GET = answering(async () => {
  await getDatabaseReady();
  return Response.json({ ready: true });
});
