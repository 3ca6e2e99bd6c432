import { and, count, eq, inArray, sql } from 'drizzle-orm';
import { drawings, journal, moments, originals, pictures, projects, receipts, settings, shots, sources } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';
import { namedDigests } from '@/server/store/named';
import { insertSources } from '@/server/store/originals';

/** Puts a project away from the shelf, or back on it (null); false when there is none. */
export async function setPutAway(database: DatabaseOrTransaction, projectId: string, at: Date | null): Promise<boolean> {
  const rows = await database.update(projects).set({ putAwayAt: at }).where(eq(projects.id, projectId)).returning({ id: projects.id });
  return rows.length > 0;
}

/** What goes when a project is deleted for good. */
export type Holdings = {
  readonly shots: number;
  readonly drawings: number;
  readonly recordings: number;
  readonly receipts: number;
  readonly changes: number;
  readonly moments: number;
  /** Bytes of pictures and files it names, and of those among them that no other project names. */
  readonly bytes: number;
  readonly ownBytes: number;
};

const DIGESTS_AT_ONCE = 1000;

/** Pictures and files among digests, with their bytes. */
async function storedAmong(
  tx: DatabaseOrTransaction,
  digests: readonly string[],
): Promise<{ pictures: Map<string, number>; originals: Map<string, number> }> {
  const found = { pictures: new Map<string, number>(), originals: new Map<string, number>() };
  for (let start = 0; start < digests.length; start += DIGESTS_AT_ONCE) {
    const some = digests.slice(start, start + DIGESTS_AT_ONCE);
    for (const [into, table] of [
      [found.pictures, pictures],
      [found.originals, originals],
    ] as const)
      for (const row of await tx
        .select({ digest: table.digest, sizeBytes: table.sizeBytes })
        .from(table)
        .where(inArray(table.digest, some)))
        into.set(row.digest, row.sizeBytes);
  }
  return found;
}

const bytesOf = (sizes: Iterable<readonly [string, number]>, isMeant: (digest: string) => boolean): number => {
  let bytes = 0;
  for (const [digest, size] of sizes) if (isMeant(digest)) bytes += size;
  return bytes;
};

/** What a project holds, and what of it nothing else needs. */
export async function holdingsOf(tx: DatabaseOrTransaction, projectId: string): Promise<Holdings> {
  const countOf = async (table: typeof shots | typeof drawings | typeof receipts | typeof journal | typeof moments) =>
    (await tx.select({ rows: count() }).from(table).where(eq(table.projectId, projectId)))[0]?.rows ?? 0;
  const stored = await storedAmong(tx, [...(await namedDigests(tx, { of: projectId }))]);
  const others = await namedDigests(tx, { besides: projectId });
  const all = [...stored.pictures, ...stored.originals];
  return {
    shots: await countOf(shots),
    drawings: await countOf(drawings),
    recordings: stored.originals.size,
    receipts: await countOf(receipts),
    changes: await countOf(journal),
    moments: await countOf(moments),
    bytes: bytesOf(all, () => true),
    ownBytes: bytesOf(all, (digest) => !others.has(digest)),
  };
}

/** Long before anything was stored: what is noted so can be freed at once. */
const LONG_AGO = new Date(0);

/** Deletes a project with all that is of it alone; pictures and files that it alone named can be freed from then on. False when there is none. */
export async function deleteProject(tx: DatabaseOrTransaction, projectId: string): Promise<boolean> {
  const own = await namedDigests(tx, { of: projectId });
  const others = await namedDigests(tx, { besides: projectId });
  const gone = await tx.delete(projects).where(eq(projects.id, projectId)).returning({ id: projects.id });
  if (gone.length === 0) return false;
  await tx.delete(settings).where(eq(settings.name, `recipes ${projectId}`));
  const left = [...own].filter((digest) => !others.has(digest));
  for (let start = 0; start < left.length; start += DIGESTS_AT_ONCE) {
    const some = left.slice(start, start + DIGESTS_AT_ONCE);
    await tx.update(pictures).set({ storedAt: LONG_AGO }).where(inArray(pictures.digest, some));
    await tx.update(originals).set({ storedAt: LONG_AGO }).where(inArray(originals.digest, some));
  }
  return true;
}

/** Has a copy of a project know the files its pictures came from. */
export async function copySources(tx: DatabaseOrTransaction, from: string, to: string): Promise<void> {
  const rows = await tx
    .select({ original: sources.original, fileName: sources.fileName, levelId: sources.levelId })
    .from(sources)
    .where(eq(sources.projectId, from));
  await insertSources(tx, to, rows);
}

/** Bytes of each project: of every picture and file that is named by it or by its past, and of its past itself. */
export async function bytesByProject(database: DatabaseOrTransaction): Promise<ReadonlyMap<string, number>> {
  const { rows } = (await database.execute(sql`
    with named as (
      select project_id, picture as digest from drawings where picture is not null
      union select project_id, original from sources
      union select project_id, found[1] from journal, regexp_matches(step::text || coalesce(inverse::text, ''), '[0-9a-f]{64}', 'g') as found
      union select project_id, found[1] from shots, regexp_matches(sounds::text, '[0-9a-f]{64}', 'g') as found
      union select id, found[1] from projects, regexp_matches(reel::text, '[0-9a-f]{64}', 'g') as found
    )
    select project_id as "projectId", sum(bytes)::float8 as bytes from (
      select project_id, size_bytes::bigint as bytes from named join pictures using (digest)
      union all select project_id, size_bytes::bigint from named join originals using (digest)
      union all
      select project_id, sum(pg_column_size(step) + coalesce(pg_column_size(inverse), 0))::bigint from journal group by project_id
    ) each group by project_id`)) as unknown as { rows: { projectId: string; bytes: number }[] };
  return new Map(rows.map(({ projectId, bytes }) => [projectId, bytes]));
}

/** What the database is, and how many bytes it has in all. */
export async function databaseFacts(database: DatabaseOrTransaction): Promise<{ readonly version: string; readonly sizeBytes: number }> {
  const { rows } = (await database.execute(
    sql`select current_setting('server_version') as version, pg_database_size(current_database())::float8 as bytes`,
  )) as unknown as { rows: { version: string; bytes: number }[] };
  return { version: rows[0]?.version ?? '?', sizeBytes: rows[0]?.bytes ?? 0 };
}

/** Names a revision, or takes its name away (null). */
export async function nameMoment(tx: DatabaseOrTransaction, projectId: string, revision: number, name: string | null): Promise<void> {
  if (name === null) await tx.delete(moments).where(and(eq(moments.projectId, projectId), eq(moments.revision, revision)));
  else
    await tx
      .insert(moments)
      .values({ projectId, revision, name })
      .onConflictDoUpdate({ target: [moments.projectId, moments.revision], set: { name, namedAt: new Date() } });
}

/** Revisions of a project that have a name, oldest first. */
export const namedMoments = (database: DatabaseOrTransaction, projectId: string) =>
  database
    .select({ revision: moments.revision, name: moments.name, namedAt: moments.namedAt })
    .from(moments)
    .where(eq(moments.projectId, projectId))
    .orderBy(moments.revision);
