import { answering } from '@/app/api/respond';
import { makeDemo } from '@/server/service/demo';

export const POST = answering(async () => Response.json(await makeDemo(), { status: 201 }));
