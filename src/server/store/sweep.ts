import { and, inArray, lt, notExists, sql } from 'drizzle-orm';
import { drawings, originalParts, originals, pictures } from '@/server/db/schema';
import type { Database, DatabaseOrTransaction } from '@/server/store/database';
import { namedDigests } from '@/server/store/named';

/*
 * Pictures and files are stored before a step names them, and some never are: a bring-in was cancelled, a
 * sending was refused. What no drawing, no shot, no source, and no step that was ever accepted names — nor what
 * would undo it — can go, once it has lain for so long that nothing under way can still mean it.
 */

type Unnamed = { readonly digest: string; readonly sizeBytes: number };

/** Pictures and files that nothing names and that were stored before a moment. */
async function unnamedBefore(
  tx: DatabaseOrTransaction,
  before: Date,
): Promise<{ pictures: readonly Unnamed[]; originals: readonly Unnamed[] }> {
  const named = await namedDigests(tx);
  const unnamed = (rows: readonly Unnamed[]) => rows.filter(({ digest }) => !named.has(digest));
  const oldPictures = await tx
    .select({ digest: pictures.digest, sizeBytes: pictures.sizeBytes })
    .from(pictures)
    .where(lt(pictures.storedAt, before));
  const oldOriginals = await tx
    .select({ digest: originals.digest, sizeBytes: originals.sizeBytes })
    .from(originals)
    .where(lt(originals.storedAt, before));
  return { pictures: unnamed(oldPictures), originals: unnamed(oldOriginals) };
}

/** How much can be freed, or was. */
export type Freed = { readonly pictures: number; readonly originals: number; readonly bytes: number };

const freedOf = ({ pictures: some, originals: others }: { pictures: readonly Unnamed[]; originals: readonly Unnamed[] }): Freed => ({
  pictures: some.length,
  originals: others.length,
  bytes: [...some, ...others].reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
});

/** How much a sweep of what was stored before a moment would free. */
export const freeable = async (tx: DatabaseOrTransaction, before: Date): Promise<Freed> => freedOf(await unnamedBefore(tx, before));

/** How many digests are named in one statement. */
const DIGESTS_AT_ONCE = 1000;

/** Removes what nothing names and was stored before a moment. */
export const sweepStore = (database: Database, before: Date): Promise<Freed> =>
  database.transaction(async (tx) => {
    const found = await unnamedBefore(tx, before);
    const drawn = tx.select({ one: sql`1` }).from(drawings).where(sql`${drawings.picture} = ${pictures.digest}`);
    const swept: { pictures: Unnamed[]; originals: Unnamed[] } = { pictures: [], originals: [] };
    for (let start = 0; start < found.pictures.length; start += DIGESTS_AT_ONCE) {
      const digests = found.pictures.slice(start, start + DIGESTS_AT_ONCE).map(({ digest }) => digest);
      // Sent again or drawn meanwhile, one stays.
      const gone = await tx
        .delete(pictures)
        .where(and(inArray(pictures.digest, digests), lt(pictures.storedAt, before), notExists(drawn)))
        .returning({ digest: pictures.digest, sizeBytes: pictures.sizeBytes });
      swept.pictures.push(...gone);
    }
    for (let start = 0; start < found.originals.length; start += DIGESTS_AT_ONCE) {
      const digests = found.originals.slice(start, start + DIGESTS_AT_ONCE).map(({ digest }) => digest);
      const gone = await tx
        .delete(originals)
        .where(and(inArray(originals.digest, digests), lt(originals.storedAt, before)))
        .returning({ digest: originals.digest, sizeBytes: originals.sizeBytes });
      swept.originals.push(...gone);
    }
    const whole = tx.select({ one: sql`1` }).from(originals).where(sql`${originals.digest} = ${originalParts.digest}`);
    await tx.delete(originalParts).where(and(lt(originalParts.storedAt, before), notExists(whole)));
    return freedOf(swept);
  });
