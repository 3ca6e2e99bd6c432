import { type DestinationChange, MOST_DESTINATIONS, storedDestinationsReader } from '@/contracts/destinations';
import type { Destination } from '@/core/check/destinations';
import { done, type Outcome } from '@/core/outcome';
import { type Answer, answered, unprocessable } from '@/server/service/answer';
import { type DatabaseOrTransaction, getDatabase } from '@/server/store/database';
import { loadSetting, saveSetting } from '@/server/store/settings';

const SETTING = 'destinations';

async function load(database: DatabaseOrTransaction): Promise<Outcome<readonly Destination[]>> {
  const stored = await loadSetting(database, SETTING);
  if (!stored) return done([]);
  const read = storedDestinationsReader.read({ ...stored.value, version: stored.version });
  return read.ok ? done(read.value.destinations) : read;
}

/** A person's own destinations; refused when a newer version saved them in a form this one can't read. */
export async function ownDestinations(): Promise<Answer<{ destinations: readonly Destination[] }>> {
  const loaded = await load(await getDatabase());
  return loaded.ok ? answered({ destinations: loaded.value }) : unprocessable(loaded.reason);
}

/** Saves a destination in the place of the one of its id, or takes it away; what can't be read is left as it is. */
export async function changeDestination({ id, destination }: DestinationChange): Promise<Answer<{ destinations: readonly Destination[] }>> {
  return (await getDatabase()).transaction(async (tx) => {
    const before = await load(tx);
    if (!before.ok) return unprocessable(before.reason);
    const others = before.value.filter((each) => each.id !== id);
    const destinations = destination ? [...others, destination] : others;
    if (destinations.length > MOST_DESTINATIONS)
      return unprocessable(`There are ${MOST_DESTINATIONS} destinations, which is the most: take one away first.`);
    await saveSetting(tx, SETTING, storedDestinationsReader.version, { destinations: [...destinations] });
    return answered({ destinations });
  });
}
