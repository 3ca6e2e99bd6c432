import { getDatabaseReady } from '@/server/service/health';

export const dynamic = 'force-dynamic';

export async function GET(): Promise<Response> {
  await getDatabaseReady();
  return Response.json({ ready: true });
}
