import { answering, readJson, respond } from '@/app/api/respond';
import { outsideOrderSchema } from '@/contracts/encoder';
import { beginOutsideFilm, outsideEncoder } from '@/server/service/outsideFilms';

export const dynamic = 'force-dynamic';

/** The outside encoder that is there, or why there is none. */
export const GET = answering(async () => Response.json(await outsideEncoder()));

/** Begins a film with it. */
export const POST = answering(async (request: Request) => {
  const order = await readJson(request, outsideOrderSchema);
  return order.ok ? respond(await beginOutsideFilm(order.value), 201) : order.response;
});
