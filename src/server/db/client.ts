import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle as drizzleNode } from 'drizzle-orm/node-postgres';
import { migrate as migrateNode } from 'drizzle-orm/node-postgres/migrator';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzlePglite } from 'drizzle-orm/pglite';
import { migrate as migratePglite } from 'drizzle-orm/pglite/migrator';
import { Pool } from 'pg';
import { holdFolder } from '@/server/db/folderLock';
import * as schema from '@/server/db/schema';

/** The database as the store sees it: the embedded one or a server, alike. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;
/** A database, or a transaction on it. */
export type DatabaseOrTransaction = Pick<Database, 'select' | 'insert' | 'update' | 'delete'>;

/** An open database and how to close it. */
export type OpenDatabase = { readonly database: Database; readonly close: () => Promise<void> };

const MIGRATIONS_FOLDER = path.join(process.cwd(), 'src/server/db/migrations');
const BYTEA = 17;

/** Opens the embedded database in a folder, holding the folder's lock; makes and migrates it when needed. */
export async function openEmbedded(folder: string): Promise<OpenDatabase> {
  const release = await holdFolder(folder);
  const client = await PGlite.create({
    dataDir: path.join(folder, 'database'),
    serializers: {
      [BYTEA]: (value: string | Uint8Array) =>
        typeof value === 'string' ? value : `\\x${Buffer.from(value.buffer, value.byteOffset, value.byteLength).toString('hex')}`,
    },
    parsers: { [BYTEA]: (value: string) => new Uint8Array(Buffer.from(value.slice(2), 'hex')) },
  });
  const database = drizzlePglite(client, { schema });
  await migratePglite(database, { migrationsFolder: MIGRATIONS_FOLDER });
  return {
    database,
    close: async () => {
      await client.close();
      await release();
    },
  };
}

/** Opens a PostgreSQL server by its address and brings its tables up to date. */
export async function openServer(databaseUrl: string): Promise<OpenDatabase> {
  const pool = new Pool({ connectionString: databaseUrl });
  const database = drizzleNode(pool, { schema });
  await migrateNode(database, { migrationsFolder: MIGRATIONS_FOLDER });
  return { database, close: () => pool.end() };
}

/** Where data is kept: a server when DATABASE_URL is set, else the folder LIME_TICK_DATA, else `data`. */
function open(): Promise<OpenDatabase> {
  const databaseUrl = process.env.DATABASE_URL;
  return databaseUrl
    ? openServer(databaseUrl)
    : openEmbedded(path.resolve(/* turbopackIgnore: true */ process.env.LIME_TICK_DATA ?? 'data'));
}

const shared = globalThis as typeof globalThis & { limeTickDatabase?: Promise<OpenDatabase> };

/** The one database of this process; opened at the first call, and again after a failed try. */
export async function getDatabase(): Promise<Database> {
  shared.limeTickDatabase ??= open().catch((error: unknown) => {
    shared.limeTickDatabase = undefined;
    throw error;
  });
  return (await shared.limeTickDatabase).database;
}
