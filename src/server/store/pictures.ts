import { inArray, sql } from 'drizzle-orm';
import type { Digest, Size } from '@/core/document/model';
import { pictures } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** A picture as it is stored: its digest, size and PNG file. */
export type StoredPicture = { readonly digest: Digest; readonly size: Size; readonly png: Uint8Array };

/** Stores a picture; one that is there already stays as it is, and is noted as wanted. */
export const insertPicture = (tx: DatabaseOrTransaction, picture: StoredPicture): Promise<void> => insertPictures(tx, [picture]);

/** Stores pictures, each another, in one statement. */
export async function insertPictures(tx: DatabaseOrTransaction, list: readonly StoredPicture[]): Promise<void> {
  if (list.length === 0) return;
  await tx
    .insert(pictures)
    .values(list.map(({ digest, size, png }) => ({ digest, widthPx: size.width, heightPx: size.height, sizeBytes: png.byteLength, png })))
    .onConflictDoUpdate({ target: pictures.digest, set: { storedAt: new Date() } });
}

/** Notes those of the pictures that are in the store as wanted, so that they stay, and gives their digests. */
export async function wantPictures(tx: DatabaseOrTransaction, digests: readonly Digest[]): Promise<ReadonlySet<Digest>> {
  const there = new Set<Digest>();
  for (let start = 0; start < digests.length; start += DIGESTS_AT_ONCE) {
    const rows = await tx
      .update(pictures)
      .set({ storedAt: new Date() })
      .where(inArray(pictures.digest, digests.slice(start, start + DIGESTS_AT_ONCE)))
      .returning({ digest: pictures.digest });
    for (const { digest } of rows) there.add(digest);
  }
  return there;
}

/** Sizes of those of the pictures that are in the store. */
export async function sizesOfPictures(database: DatabaseOrTransaction, digests: readonly Digest[]): Promise<Map<Digest, Size>> {
  if (digests.length === 0) return new Map();
  const rows = await database
    .select({ digest: pictures.digest, width: pictures.widthPx, height: pictures.heightPx })
    .from(pictures)
    .where(inArray(pictures.digest, [...digests]));
  return new Map(rows.map(({ digest, width, height }) => [digest, { width, height }]));
}

/** What tells the very file of a picture: the SHA-256 of its bytes (hexadecimal), and its size. */
export type KnownPicture = { readonly sha256: string; readonly size: Size };

/** The same of those of the pictures that are in the store: the database hashes them, so that no bytes come out of it. */
export async function knownPictures(database: DatabaseOrTransaction, digests: readonly Digest[]): Promise<Map<Digest, KnownPicture>> {
  const rows = await database
    .select({
      digest: pictures.digest,
      width: pictures.widthPx,
      height: pictures.heightPx,
      sha256: sql<string>`encode(sha256(${pictures.png}), 'hex')`,
    })
    .from(pictures)
    .where(inArray(pictures.digest, [...digests]));
  return new Map(rows.map(({ digest, width, height, sha256 }) => [digest, { sha256, size: { width, height } }]));
}

/** The PNG files of those of the pictures that are in the store. */
export async function loadPictures(database: DatabaseOrTransaction, digests: readonly Digest[]): Promise<Map<Digest, Uint8Array>> {
  const rows = await database
    .select({ digest: pictures.digest, png: pictures.png })
    .from(pictures)
    .where(inArray(pictures.digest, [...digests]));
  return new Map(rows.map(({ digest, png }) => [digest, png]));
}

/** Bytes of the PNG files of those of the pictures that are in the store. */
export async function sizesInBytes(database: DatabaseOrTransaction, digests: readonly Digest[]): Promise<ReadonlyMap<Digest, number>> {
  const sizes = new Map<Digest, number>();
  for (let start = 0; start < digests.length; start += DIGESTS_AT_ONCE) {
    const rows = await database
      .select({ digest: pictures.digest, sizeBytes: pictures.sizeBytes })
      .from(pictures)
      .where(inArray(pictures.digest, digests.slice(start, start + DIGESTS_AT_ONCE)));
    for (const { digest, sizeBytes } of rows) sizes.set(digest, sizeBytes);
  }
  return sizes;
}

/** How many digests are asked for in one statement. */
const DIGESTS_AT_ONCE = 1000;
