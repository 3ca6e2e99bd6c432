import { asc, eq, inArray } from 'drizzle-orm';
import { originals, sources } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** Keeps a file as it was brought in; one that is there already is left as it is. */
export async function insertOriginal(tx: DatabaseOrTransaction, digest: string, file: Uint8Array): Promise<void> {
  await tx.insert(originals).values({ digest, sizeBytes: file.byteLength, file }).onConflictDoNothing();
}

/** A file as it was brought in; null when there is none of that digest. */
export async function loadOriginal(database: DatabaseOrTransaction, digest: string): Promise<Uint8Array | null> {
  const [row] = await database.select({ file: originals.file }).from(originals).where(eq(originals.digest, digest));
  return row?.file ?? null;
}

/** Those of the digests under which a file is kept. */
export async function originalsAmong(database: DatabaseOrTransaction, digests: readonly string[]): Promise<ReadonlySet<string>> {
  if (digests.length === 0) return new Set();
  const rows = await database
    .select({ digest: originals.digest })
    .from(originals)
    .where(inArray(originals.digest, [...digests]));
  return new Set(rows.map((row) => row.digest));
}

/** Where a level's pictures came from. */
export type SourceRow = { readonly original: string; readonly fileName: string; readonly levelId: string };

/** Notes from which files a level's pictures came. */
export async function insertSources(tx: DatabaseOrTransaction, projectId: string, rows: readonly SourceRow[]): Promise<void> {
  if (rows.length > 0)
    await tx
      .insert(sources)
      .values(rows.map((row) => ({ ...row, projectId })))
      .onConflictDoNothing();
}

/** Files a project's pictures came from, in the order they were brought in. */
export const loadSources = (database: DatabaseOrTransaction, projectId: string) =>
  database
    .select({ original: sources.original, fileName: sources.fileName, levelId: sources.levelId })
    .from(sources)
    .where(eq(sources.projectId, projectId))
    .orderBy(asc(sources.broughtAt), asc(sources.fileName));
