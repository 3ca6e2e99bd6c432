import { and, inArray, lt, notExists, notInArray, sql } from 'drizzle-orm';
import { drawings, journal, originalParts, originals, pictures, projects, shots, sources } from '@/server/db/schema';
import type { Database, DatabaseOrTransaction } from '@/server/store/database';

/*
 * Pictures and files are stored before a step names them, and some never are: a bring-in was cancelled, a
 * sending was refused. What no drawing, no shot, no source, and no step that was ever accepted names — nor what
 * would undo it — can go, once it has lain for so long that nothing under way can still mean it.
 */

/** Every digest that is written anywhere in a column of JSON. */
const digestsIn = (column: ReturnType<typeof sql>, table: ReturnType<typeof sql>) =>
  sql<{ digest: string }>`select distinct found[1] as digest from ${table}, regexp_matches(${column}::text, '[0-9a-f]{64}', 'g') as found`;

async function namedDigests(tx: DatabaseOrTransaction & Pick<Database, 'execute'>): Promise<string[]> {
  const named = new Set<string>();
  for (const query of [
    digestsIn(sql`${journal.step}`, sql`${journal}`),
    digestsIn(sql`${journal.inverse}`, sql`${journal}`),
    digestsIn(sql`${shots.sounds}`, sql`${shots}`),
    digestsIn(sql`${projects.reel}`, sql`${projects}`),
  ]) {
    const { rows } = (await tx.execute(query)) as unknown as { rows: { digest: string }[] };
    for (const row of rows) named.add(row.digest);
  }
  return [...named];
}

/** Removes what nothing names and was stored before a moment; how many of each went. */
export const sweepStore = (database: Database, before: Date): Promise<{ pictures: number; originals: number }> =>
  database.transaction(async (tx) => {
    const named = await namedDigests(tx);
    const drawn = tx.select({ one: sql`1` }).from(drawings).where(sql`${drawings.picture} = ${pictures.digest}`);
    const unnamed = named.length > 0 ? notInArray(pictures.digest, named) : undefined;
    const sweptPictures = await tx
      .delete(pictures)
      .where(and(lt(pictures.storedAt, before), notExists(drawn), unnamed))
      .returning({ digest: pictures.digest });
    const kept = new Set([...named, ...(await tx.select({ original: sources.original }).from(sources)).map((row) => row.original)]);
    const old = await tx.select({ digest: originals.digest }).from(originals).where(lt(originals.storedAt, before));
    const swept = old.map((row) => row.digest).filter((digest) => !kept.has(digest));
    if (swept.length > 0) await tx.delete(originals).where(inArray(originals.digest, swept));
    const whole = tx.select({ one: sql`1` }).from(originals).where(sql`${originals.digest} = ${originalParts.digest}`);
    await tx.delete(originalParts).where(and(lt(originalParts.storedAt, before), notExists(whole)));
    return { pictures: sweptPictures.length, originals: swept.length };
  });
