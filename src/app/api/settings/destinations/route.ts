import { answering, readJson, respond } from '@/app/api/respond';
import { destinationChangeSchema } from '@/contracts/destinations';
import { changeDestination, ownDestinations } from '@/server/service/destinations';

export const dynamic = 'force-dynamic';

/** The destinations a person has made. */
export const GET = answering(async () => respond(await ownDestinations()));

/** Saves a destination, or takes it away. */
export const PUT = answering(async (request: Request) => {
  const body = await readJson(request, destinationChangeSchema);
  return body.ok ? respond(await changeDestination(body.value)) : body.response;
});
