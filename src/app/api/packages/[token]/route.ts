import { answering, readIds } from '@/app/api/respond';
import { linesOf } from '@/app/api/streams';
import { dropPackage, takePackage } from '@/server/service/package/takePackage';

/** Brings in a package that was checked, told line by line. */
export const POST = answering(async (_request: Request, { params }: RouteContext<'/api/packages/[token]'>) => {
  const ids = await readIds(params);
  return ids.ok ? linesOf(takePackage(ids.value.token)) : ids.response;
});

/** Lets go of a package that was checked. */
export const DELETE = answering(async (_request: Request, { params }: RouteContext<'/api/packages/[token]'>) => {
  const ids = await readIds(params);
  if (!ids.ok) return ids.response;
  await dropPackage(ids.value.token);
  return new Response(null, { status: 204 });
});
