import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { originalParts, originals, sources } from '@/server/db/schema';
import type { Database, DatabaseOrTransaction } from '@/server/store/database';

/** Bytes of a part of a file as it is kept. */
const PART_BYTES = 1024 * 1024;

/** Bytes gathered into parts of the size they are kept in, the last one shorter. */
async function* inParts(bytes: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let part = new Uint8Array(PART_BYTES);
  let filled = 0;
  for await (const chunk of bytes) {
    for (let from = 0; from < chunk.byteLength; ) {
      const taken = Math.min(PART_BYTES - filled, chunk.byteLength - from);
      part.set(chunk.subarray(from, from + taken), filled);
      filled += taken;
      from += taken;
      if (filled < PART_BYTES) continue;
      yield part;
      part = new Uint8Array(PART_BYTES);
      filled = 0;
    }
  }
  if (filled > 0) yield part.subarray(0, filled);
}

/**
 * Keeps a file as it was brought in, part by part; one that is there already is left as it is. It is there only
 * once all of its parts are: they are written before the row that names them is seen.
 */
export async function insertOriginal(
  database: Database,
  digest: string,
  sizeBytes: number,
  bytes: AsyncIterable<Uint8Array>,
): Promise<void> {
  const known = await database
    .update(originals)
    .set({ storedAt: new Date() })
    .where(eq(originals.digest, digest))
    .returning({ digest: originals.digest });
  if (known.length > 0) return;
  let position = 0;
  for await (const bytesOfPart of inParts(bytes)) {
    const part = { digest, position: position++, bytes: bytesOfPart };
    await database
      .insert(originalParts)
      .values(part)
      .onConflictDoUpdate({ target: [originalParts.digest, originalParts.position], set: { storedAt: new Date() } });
  }
  await database.insert(originals).values({ digest, sizeBytes, file: null }).onConflictDoNothing();
}

/** A file as it was brought in: how large it is, and its bytes as they are asked for, from one (inclusive) to another (exclusive). */
export type OriginalFile = { readonly sizeBytes: number; readonly bytes: (from: number, to: number) => AsyncIterable<Uint8Array> };

/** Bytes that are read at once: whoever goes somewhere in a clip waits for the first of them. */
const SLICE_BYTES = PART_BYTES / 4;

/** Slices that were read last, by the file and their place: several readers of one clip ask for the same, again and again. What a digest names never changes. */
const lastSlices = new Map<string, Uint8Array>();
const MOST_LAST_SLICES = 192;

async function readSlice(database: DatabaseOrTransaction, digest: string, slice: number): Promise<Uint8Array | null> {
  const key = `${digest} ${slice}`;
  const known = lastSlices.get(key);
  lastSlices.delete(key);
  const bytes = known ?? (await loadSlice(database, digest, slice * SLICE_BYTES));
  if (!bytes) return null;
  lastSlices.set(key, bytes);
  const [oldest] = lastSlices.keys();
  if (lastSlices.size > MOST_LAST_SLICES && oldest !== undefined) lastSlices.delete(oldest);
  return bytes;
}

async function loadSlice(database: DatabaseOrTransaction, digest: string, from: number): Promise<Uint8Array | null> {
  const position = Math.floor(from / PART_BYTES);
  // PostgreSQL counts bytes from 1.
  const start = (from % PART_BYTES) + 1;
  const [part] = await database
    .select({ bytes: sql<Uint8Array>`substring(${originalParts.bytes} from ${start} for ${SLICE_BYTES})` })
    .from(originalParts)
    .where(and(eq(originalParts.digest, digest), eq(originalParts.position, position)));
  return part?.bytes ?? null;
}

/** A file as it was brought in; null when there is none of that digest. */
export async function loadOriginal(database: DatabaseOrTransaction, digest: string): Promise<OriginalFile | null> {
  const [row] = await database
    .select({ sizeBytes: originals.sizeBytes, isWhole: sql<boolean>`${originals.file} is not null` })
    .from(originals)
    .where(eq(originals.digest, digest));
  if (!row) return null;
  async function* whole(from: number, to: number): AsyncGenerator<Uint8Array> {
    const [found] = await database.select({ file: originals.file }).from(originals).where(eq(originals.digest, digest));
    if (found?.file) yield found.file.subarray(from, to);
  }
  async function* inOrder(from: number, to: number): AsyncGenerator<Uint8Array> {
    for (let slice = Math.floor(from / SLICE_BYTES); slice * SLICE_BYTES < to; slice++) {
      const bytes = await readSlice(database, digest, slice);
      if (!bytes) return;
      const start = slice * SLICE_BYTES;
      yield bytes.subarray(Math.max(0, from - start), to - start);
    }
  }
  return { sizeBytes: row.sizeBytes, bytes: row.isWhole ? whole : inOrder };
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

/** A file that is held whole, as bytes to be read in parts. */
export async function* wholeFile(file: Uint8Array): AsyncGenerator<Uint8Array> {
  yield file;
}
