import { makeDemo } from '@/server/service/demo';

export async function POST(): Promise<Response> {
  return Response.json(await makeDemo(), { status: 201 });
}
